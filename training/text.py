"""Text to write: sentences in three languages, and the numbers, dates, codes and names of real notes."""
import glob
import html
import random
import re

import settings

_ALLOWED = set(settings.ALPHABET)


def tidy(line):
    line = re.sub(r"\s+", " ", line.translate(settings.FOLD)).strip()
    return "".join(c for c in line if c in _ALLOWED)


def _brown():
    for name in sorted(glob.glob(str(settings.FONTS / "brown" / "c[a-r][0-9][0-9]"))):
        for line in open(name, encoding="latin-1"):
            words = [w.rsplit("/", 1)[0] for w in line.split()]
            if len(words) > 2:
                text = " ".join(words).replace("``", '"').replace("''", '"')
                text = re.sub(r" ([.,;:!?')])", r"\1", text).replace("( ", "(")
                text = re.sub(r'" ([^"]*?) ?"', r'"\1"', text)
                yield text


def _glosses():
    for part in ("noun", "verb", "adj", "adv"):
        for line in open(f"/usr/share/wordnet/data.{part}", encoding="utf-8"):
            if " | " in line:
                for piece in line.split(" | ", 1)[1].split(";"):
                    yield piece.strip().strip('"')


def _manual(pattern):
    for name in sorted(glob.glob(pattern)):
        text = open(name, encoding="utf-8", errors="ignore").read()
        for paragraph in re.findall(r"<p[ >].*?</p>", text, flags=re.S):
            text = re.sub(r"\s+", " ", html.unescape(re.sub(r"<[^>]*>", "", re.sub(r"<p[^>]*>", "", paragraph))))
            yield from re.split(r"(?<=[.!?]) (?=[A-ZÄÖÜÉÀ])", text)


def _sayings_de():
    for name in sorted(glob.glob("/usr/share/games/fortunes/de/*")):
        if "." in name.rsplit("/", 1)[1]:
            continue
        for piece in re.split(r"\n%\n", open(name, encoding="utf-8", errors="ignore").read()):
            piece = re.sub(r"\x1b\[[0-9;]*m", "", piece)
            yield from re.split(r"(?<=[.!?])\s", piece)


def sentences(language):
    """All sentences of a language ("en", "de", "fr"), tidied to the alphabet."""
    if language == "en":
        sources = [_brown(), _glosses(), _manual("/usr/share/doc/debian-handbook/html/en-US/*.html")]
    elif language == "de":
        sources = [_sayings_de(), _manual("/usr/share/doc/debian-handbook/html/de-DE/*.html"),
                   _manual("/usr/share/debian-reference/ch*.de.html")]
    else:
        sources = [_manual("/usr/share/doc/debian-handbook/html/fr-FR/*.html"),
                   _manual("/usr/share/debian-reference/ch*.fr.html")]
    return [t for source in sources for t in map(tidy, source) if len(t) > 3]


def words(path):
    return [w for w in (tidy(l) for l in open(path, encoding="utf-8")) if w]


MONTHS = "January February March April May June July August September October November December".split()
DAYS = "Monday Tuesday Wednesday Thursday Friday Saturday Sunday".split()
UNITS = "kg g mg l ml cm mm m km °C % € £ $ h min s ha t W kW V A".split()
ABBREVIATIONS = "e.g. i.e. etc. approx. vs. Dr. Mr. Mrs. St. No. Nr. z.B. ca. bzw. M. Mme. Tel. min. max. cf.".split()


def number(r):
    kind = r.random()
    if kind < 0.4:
        return str(r.randrange(0, 10 ** r.randint(1, 4)))
    if kind < 0.6:
        return f"{r.random() * 10 ** r.randint(0, 3):.{r.randint(1, 3)}f}"
    if kind < 0.7:
        return f"{r.randrange(1, 999)},{r.randrange(0, 1000):03d}"
    if kind < 0.8:
        return f"{r.choice('+-±')}{r.random() * 30:.1f}"
    return f"{r.randrange(1, 500)}{r.choice(['', ' '])}{r.choice(UNITS)}"


def special(r):
    """A piece like those found in notes, made by rule."""
    kind = r.randrange(14)
    if kind == 0:
        return r.choice([f"{r.randrange(1, 29)} {r.choice(MONTHS)} {r.randrange(1950, 2040)}",
                         f"{r.randrange(1, 29):02d}.{r.randrange(1, 13):02d}.{r.randrange(1950, 2040)}",
                         f"{r.randrange(2000, 2040)}-{r.randrange(1, 13):02d}-{r.randrange(1, 29):02d}",
                         f"{r.randrange(1, 13)}/{r.randrange(1, 29)}/{r.randrange(0, 99):02d}",
                         f"{r.choice(DAYS)}, {r.randrange(1, 29)} {r.choice(MONTHS)[:3]}."])
    if kind == 1:
        return r.choice([f"{r.randrange(0, 24)}:{r.randrange(0, 60):02d}", f"{r.randrange(1, 13)}.{r.randrange(0, 60):02d} {r.choice(['am', 'pm'])}",
                         f"{r.randrange(0, 24):02d}:{r.randrange(0, 60):02d}-{r.randrange(0, 24):02d}:{r.randrange(0, 60):02d}"])
    if kind == 2:
        a, b = r.randrange(1, 200), r.randrange(1, 99)
        sign, value = r.choice([("+", a + b), ("-", a - b), ("×", a * b), ("*", a * b), ("÷", round(a / b, 2)), ("/", round(a / b, 2))])
        return f"{a} {sign} {b} = {value}"
    if kind == 3:
        return f"tel. {r.randrange(100, 999)}-{r.randrange(0, 10000):04d}" if r.random() < .5 else f"0{r.randrange(10, 999)} {r.randrange(1000, 9999999)}"
    if kind == 4:
        letters = "abcdefghijklmnopqrstuvwxyz"
        name = "".join(r.choice(letters) for _ in range(r.randint(3, 8)))
        return r.choice([f"{name}@example.org", f"www.{name}.org", f"https://{name}.net/{r.choice(letters)}{r.randrange(99)}", f"#{name}", f"@{name}"])
    if kind == 5:
        return "".join(r.choice("ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789") for _ in range(r.randint(3, 8)))
    if kind == 6:
        return f"{r.choice('ABCDEFGHKLMNPRSTVWXZ')}{r.randrange(1, 99)}-{r.randrange(1, 999)}{r.choice(['', '/', 'b', 'x'])}"
    if kind == 7:
        return r.choice(ABBREVIATIONS)
    if kind == 8:
        return " ".join(number(r) for _ in range(r.randint(2, 5)))
    if kind == 9:
        return f"{r.choice('xyzabn')} {r.choice(['=', '<', '>', '+', '-'])} {number(r)}"
    if kind == 10:
        return f"{number(r)} {r.choice(UNITS)}"
    if kind == 11:
        return f"({r.choice([number(r), 'see p. ' + str(r.randrange(300)), '§ ' + str(r.randrange(200))])})"
    if kind == 12:
        return f"{r.choice('€£$')}{r.randrange(1, 999)}.{r.randrange(100):02d}"
    return "".join(r.choice(settings.ALPHABET[1:]) for _ in range(r.randint(2, 7)))


class Writer:
    """Draws lines of note-like text. Every line is made of characters of the alphabet."""

    def __init__(self, seed=0):
        self.r = random.Random(seed)
        self.sentences = {l: sentences(l) for l in ("en", "de", "fr")}
        self.lexicon = words("/usr/share/dict/american-english")

    def line(self, longest=42):
        r = self.r
        kind = r.random()
        if kind < 0.62:
            pool = self.sentences[r.choices(["en", "de", "fr"], [0.72, 0.14, 0.14])[0]]
            parts = r.choice(pool).split(" ")
            start = 0 if r.random() < 0.4 else r.randrange(len(parts))
            text = " ".join(parts[start:])
        elif kind < 0.74:
            text = " ".join(r.choice(self.lexicon) for _ in range(r.randint(1, 6)))
        elif kind < 0.9:
            text = " ".join(special(r) if r.random() < 0.6 else r.choice(self.lexicon) for _ in range(r.randint(1, 4)))
        else:
            text = " ".join("".join(r.choice(settings.ALPHABET[1:]) for _ in range(r.randint(1, 7))) for _ in range(r.randint(1, 4)))
        if r.random() < 0.06:
            text = text.upper().replace("SS", "SS")
            text = "".join(c for c in text if c in _ALLOWED)
        if r.random() < 0.05:
            text = r.choice(["- ", "• ", "* ", "+ ", f"{r.randrange(1, 12)}. ", f"{r.choice('abc')}) ", "> "]) + text
        limit = max(r.randint(3, longest), r.randint(3, longest))
        if len(text) > limit:
            cut = text.rfind(" ", 0, limit + 1)
            text = text[:cut if cut > 2 else limit]
        return text.strip() or "a"
