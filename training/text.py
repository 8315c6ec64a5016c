"""Text to write: sentences in many languages, and the numbers, dates, codes and names of real notes.

    python3 text.py            gathers every language's sentences and words from what fetch brought (about 4 minutes)
"""
import functools
import gettext
import glob
import html
import itertools
import multiprocessing
import pathlib
import random
import re
import subprocess
import tempfile
import unicodedata

import settings

BOOKS = settings.WORK / "text"       # unpacked documentation packages, see fetch
# Language code: (folder names in documentation, dictionary).
LANGUAGES = {
    "en": (("en",), "/usr/share/dict/american-english"), "de": (("de",), "/usr/share/dict/ngerman"),
    "fr": (("fr",), "/usr/share/dict/french"), "es": (("es",), "es_ES"), "it": (("it",), "it_IT"),
    "pt": (("pt", "pt_BR", "pt-BR"), "pt_PT"), "nl": (("nl",), "nl"), "sv": (("sv",), "sv_SE"), "da": (("da",), "da_DK"),
    "no": (("nb", "no", "nb_NO"), "nb_NO"), "fi": (("fi",), None), "pl": (("pl",), "pl_PL"), "cs": (("cs",), "cs_CZ"),
    "sk": (("sk",), "sk_SK"), "hu": (("hu",), "hu_HU"), "ro": (("ro",), "ro_RO"), "hr": (("hr",), "hr_HR"),
    "sl": (("sl",), "sl_SI"), "tr": (("tr",), "tr_TR"), "et": (("et",), "et_EE"), "lv": (("lv",), "lv_LV"),
    "lt": (("lt",), "lt_LT"), "ga": (("ga",), "aspell:ga"), "cy": (("cy",), "aspell:cy"), "ca": (("ca",), "ca"),
    "eu": (("eu",), "eu"), "is": (("is",), "is_IS"), "id": (("id",), "id_ID"), "vi": (("vi",), "vi_VN"),
}


def tidy(line):
    """A line made of writable characters only, composed, with one space between words."""
    line = unicodedata.normalize("NFC", line).translate(settings.FOLD)
    return re.sub(r"\s+", " ", "".join(c for c in line if settings.writable(c) or c.isspace())).strip()


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


def _paragraphs(pattern, names):
    """Paragraph texts of HTML and help files below the unpacked packages, in the folders of a language."""
    for name in names:
        for path in sorted(glob.glob(str(BOOKS / pattern.format(name)), recursive=True)):
            page = pathlib.Path(path).read_text(encoding="utf-8", errors="ignore")
            for paragraph in re.findall(r"<(?:p|title|td|desc|h[1-4])(?: [^>]*)?>(.*?)</(?:p|title|td|desc|h[1-4])>", page, flags=re.S):
                text = re.sub(r"\s+", " ", html.unescape(re.sub(r"<[^>]*>", "", paragraph)))
                yield from re.split(r"(?<=[.!?]) (?=[^\W\d_a-z])", text)


def _catalogues(names):
    """Translated messages of programs, without their place-holders."""
    for name in names:
        for path in sorted(glob.glob(str(BOOKS / f"usr/share/locale/{name}/LC_MESSAGES/*.mo"))):
            try:
                messages = gettext.GNUTranslations(open(path, "rb"))._catalog
            except (OSError, UnicodeDecodeError, ValueError):
                continue
            for source, text in messages.items():
                if source and text and source != text and not re.search(r"[%{}<>\\]", text):
                    yield from re.split(r"(?<=[.!?])\s", text.replace("_", "").replace("\n", " "))


@functools.lru_cache(None)
def _english_help():
    return {tidy(t) for t in _paragraphs("usr/share/help/{}/**/*.page", ("C",))}


def _gather(language):
    """All sentences of a language, tidied to the alphabet, each once."""
    names, _ = LANGUAGES[language]
    if language == "en":
        sources = [_brown(), _glosses(), _manual("/usr/share/doc/debian-handbook/html/en-US/*.html")]
    else:
        sources = [_paragraphs(pattern, names) for pattern in
                   ("usr/share/libreoffice/help/{}/text/s[cwh]*/*/*.html", "usr/share/help/{}/**/*.page",
                    "usr/share/doc/installation-guide-amd64/{}/*.html")] + [_catalogues(names)]
        if language == "de":
            sources += [_sayings_de(), _manual("/usr/share/doc/debian-handbook/html/de-DE/*.html"),
                        _manual("/usr/share/debian-reference/ch*.de.html")]
        if language == "fr":
            sources += [_manual("/usr/share/doc/debian-handbook/html/fr-FR/*.html"),
                        _manual("/usr/share/debian-reference/ch*.fr.html")]
    foreign = set() if language == "en" else _english_help()
    kept = dict.fromkeys(t for source in sources for t in map(tidy, source) if len(t) > 3)
    return [t for t in kept if t not in foreign]


HELD = 37      # every 37th sentence is kept for evaluation: neither network nor language models learn from it


def learnt(language):
    return [s for i, s in enumerate(sentences(language)) if i % HELD]


def held(language):
    return sentences(language)[::HELD]


MOST_FORMS = 600_000


def _dictionary(language):
    """The words of a language's dictionary, with the forms its suffix rules make."""
    _, source = LANGUAGES[language]
    if source is None:
        lines = []
    elif source.startswith("/"):
        lines = open(source, encoding="utf-8").read().splitlines()
    elif source.startswith("aspell:"):
        lines = subprocess.run(["aspell", "-l", source[7:], "--encoding=utf-8", "dump", "master"], capture_output=True,
                               check=True).stdout.decode().splitlines()
    else:
        base = pathlib.Path("/usr/share/hunspell") / source
        affix = base.with_suffix(".aff").read_bytes()
        encoding = re.search(rb"^SET (\S+)", affix, re.M)
        # Every stem as it is; and, of stems in random order without prefixes (elided articles, numerals), the forms: some
        # dictionaries would make tens of millions.
        count, *stems = base.with_suffix(".dic").read_bytes().splitlines()
        lines = list(stems)
        random.Random(1).shuffle(stems)
        with tempfile.TemporaryDirectory() as folder:
            suffixes, shuffled = pathlib.Path(folder) / "a.aff", pathlib.Path(folder) / "a.dic"
            suffixes.write_bytes(re.sub(rb"^PFX .*\n", b"", affix, flags=re.M))
            shuffled.write_bytes(b"\n".join([count, *stems]) + b"\n")
            with subprocess.Popen(["unmunch", shuffled, suffixes], stdout=subprocess.PIPE, stderr=subprocess.DEVNULL) as process:
                lines += [line.rstrip(b"\n") for line in itertools.islice(process.stdout, MOST_FORMS)]
                process.kill()
        lines = b"\n".join(lines).decode(encoding.group(1).decode() if encoding else "latin-1", errors="ignore").splitlines()
        lines = [line.split("/")[0].split("\t")[0] for line in lines]
    return list(dict.fromkeys(w for w in map(tidy, lines) if w and " " not in w and not any(c.isdigit() for c in w)))


@functools.lru_cache(None)
def sentences(language):
    return (BOOKS / f"{language}.sentences").read_text(encoding="utf-8").splitlines()


@functools.lru_cache(None)
def words(language):
    return (BOOKS / f"{language}.words").read_text(encoding="utf-8").splitlines()


def prepare(language):
    for name, made in (("sentences", _gather), ("words", _dictionary)):
        path = BOOKS / f"{language}.{name}"
        if not path.exists():
            path.write_text("\n".join(made(language)), encoding="utf-8")


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


def row_of_numbers(r):
    """What stands in columns and lists: plain numbers, telephone numbers, dates, sums, prices."""
    plain = lambda: "".join(r.choice("0123456789") for _ in range(r.randint(1, 6)))
    telephone = lambda: r.choice([" ", "-"]).join("".join(r.choice("0123456789") for _ in range(n)) for n in r.choice([(3, 4), (3, 3, 4), (4, 6), (2, 2, 2, 2)]))
    piece = r.choice([plain, plain, plain, telephone, lambda: special_of(r, 0), lambda: special_of(r, 2), lambda: special_of(r, 12),
                      lambda: f"{plain()}.{plain()[:2]}", lambda: f"{plain()} {r.choice(UNITS)}"])
    return " ".join(piece() for _ in range(r.randint(1, 7)))


def special(r):
    """A piece like those found in notes, made by rule."""
    return special_of(r, r.randrange(14))


def special_of(r, kind):
    """… of one kind, 0 to 13."""
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
    return "".join(r.choice("abcdefghijklmnopqrstuvwxyz0123456789.,:;!?-+/#&@_%=") for _ in range(r.randint(2, 7)))


def literal(r):
    """Names that stand in no list, codes, addresses, numbers and words of another language: a line no model foretells."""
    syllable = lambda: r.choice("b ch d f g gr h k l m n p r s st t v w z".split()) + r.choice("a e i o u ai ei ou".split()) + r.choice(["", "", "n", "r", "l", "s", "k"])
    name = lambda: "".join(syllable() for _ in range(r.randint(2, 3))).capitalize()
    foreign = lambda: r.choice(words(r.choice(["et", "eu", "hu", "cy", "id"])))
    code = lambda: r.choice([special_of(r, 5), special_of(r, 6), f"{special_of(r, 6)} {special_of(r, 5)}"])
    piece = r.choice([lambda: f"{name()} {name()}", lambda: f"{name()}, {code()}", code, lambda: special_of(r, 4),
                      lambda: f"{name()} {special_of(r, 3)}", lambda: f"{foreign()} {foreign()}", lambda: f"{foreign()} {name()}"])
    return tidy(piece())


_SIGNS = settings.ALPHABET[1:]
_NOTES = "→ ← ↑ ↓ • – — ✓ ☐ ☑ ≈ ≠ ≤ ≥ ± × ÷ ½ ¼ ¾ ‰ ° § & @ # * + / = < > | ~ ^ _".split()
_QUOTES = [('"', '"'), ("„", '"'), ("«", "»"), ("« ", " »"), ("»", "«"), ("'", "'"), ("(", ")"), ("[", "]"), ("¿", "?"), ("¡", "!"), ("{", "}")]


class Writer:
    """Draws lines of note-like text. Every line is made of writable characters, composed."""

    def __init__(self, seed=0, share_en=0.45):
        self.r = random.Random(seed)
        self.codes = list(LANGUAGES)
        others = (1 - share_en) / (len(self.codes) + 2)
        self.weights = [share_en if c == "en" else others * (2.5 if c in ("de", "fr") else 1) for c in self.codes]
        pick = random.Random(1)
        self.sentences, self.words = {}, {}
        for code in self.codes:
            found, listed = learnt(code), words(code)
            # Enough to draw from; whole dictionaries of all languages would fill the memory of every worker.
            self.sentences[code] = found if len(found) < 60000 else pick.sample(found, 60000)
            self.words[code] = listed if len(listed) < 60000 else pick.sample(listed, 60000)
            if len(self.sentences[code]) < 2000:
                self.sentences[code] = self.words[code]
            if not self.words[code]:
                self.words[code] = sorted({w for s in found for w in re.findall(r"[^\W\d_]+", s)})
        self.marked = sorted({c for code in self.codes for s in self.words[code][::7] for c in s
                              if len(unicodedata.normalize("NFD", c)) > 1 or c in "ßæøœÆØŒđĐðÐłŁþÞı"})

    def line(self, longest=42):
        r = self.r
        kind = r.random()
        code = r.choices(self.codes, self.weights)[0]
        word = lambda: r.choice(self.words[code])
        if kind < 0.16:
            text = row_of_numbers(r)
        elif kind < 0.60:
            parts = r.choice(self.sentences[code]).split(" ")
            start = 0 if r.random() < 0.5 else r.randrange(len(parts))
            text = " ".join(parts[start:])
        elif kind < 0.72:
            cased = lambda w: w if r.random() < 0.6 else w[:1].upper() + w[1:]
            text = " ".join(cased(word()) for _ in range(r.randint(1, 6)))
        elif kind < 0.88:
            text = " ".join(special(r) if r.random() < 0.6 else word() for _ in range(r.randint(1, 4)))
        elif kind < 0.93:
            made = lambda: "".join(r.choice(_SIGNS if r.random() < 0.7 else self.marked) for _ in range(r.randint(1, 7)))
            text = " ".join(made() for _ in range(r.randint(1, 4)))
        else:
            pieces = []
            for _ in range(r.randint(1, 4)):
                pieces.append(word())
                if r.random() < 0.7:
                    pieces.append(r.choice(_NOTES))
            text = " ".join(pieces)
        if r.random() < 0.06:
            text = text.upper()
        elif r.random() < 0.12:
            text = " ".join(w[:1].upper() + w[1:] for w in text.split(" "))
        if r.random() < 0.05:
            before, after = r.choice(_QUOTES)
            text = before + text + after
        if r.random() < 0.06:
            text = r.choice(["- ", "– ", "• ", "* ", "+ ", "→ ", "☐ ", "☑ ", "✓ ", f"{r.randrange(1, 12)}. ", f"{r.choice('abc')}) ", "> "]) + text
        text = tidy(text)
        limit = max(r.randint(3, longest), r.randint(3, longest))
        if len(text) > limit:
            cut = text.rfind(" ", 0, limit + 1)
            text = text[:cut if cut > 2 else limit]
        return text.strip() or "a"


if __name__ == "__main__":
    with multiprocessing.Pool(2) as workers:
        for done in workers.imap_unordered(prepare, LANGUAGES, chunksize=1):
            pass
