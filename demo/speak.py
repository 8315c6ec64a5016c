#!/usr/bin/env python3
"""Speaks what hallow-hill.json says was said on the walk: walk.opus, and where in it each part is, with the minute at which
it was said. Needs Debian's espeak-ng and python3-soundfile; run from this directory."""
import json
import subprocess
import tempfile

import numpy
import soundfile

RATE = 48000
AFTER_S = 0.4  # of silence after each part

spoken = next(n["spoken"] for n in json.load(open("hallow-hill.json"))["notebooks"] if "spoken" in n)
sound, parts = [], []
at = 0
for minute, text in spoken["says"]:
    with tempfile.NamedTemporaryFile(suffix=".wav") as wav:
        subprocess.run(["espeak-ng", "-v", "en+f3", "-s", "150", "-w", wav.name, text], check=True)
        samples, rate = soundfile.read(wav.name)
    times = numpy.arange(int(len(samples) * RATE / rate)) * rate / RATE
    samples = numpy.interp(times, numpy.arange(len(samples)), samples)
    samples = numpy.concatenate([samples, numpy.zeros(int(AFTER_S * RATE))])
    length = len(samples) * 1000 // RATE
    parts.append([at, length, int(minute * 60_000)])
    sound.append(samples[: length * RATE // 1000])
    at += length
soundfile.write(spoken["sound"], numpy.concatenate(sound), RATE, format="OGG", subtype="OPUS")
json.dump(parts, open(spoken["parts"], "w"))
print(f"{at / 1000:.1f} s")
