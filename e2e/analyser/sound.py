"""Independent reading and making of modem sound, with NumPy alone; knows nothing of the code under test.

tones FILE             JSON: frequency of each tone of a Bell 202 transmission in Hz, space over mark in dB
read-9600 FILE         bits (0 and 1) of a scrambled 9600 baud transmission, descrambled and NRZI decoded
write-9600 FILE RATE   makes such a transmission from the bits on standard input

Bell 202: 1200 and 2200 Hz. 9600 baud: NRZI, then 1 + x^12 + x^17 (common practice), then one level for each bit.
"""

import json
import sys
import wave

import numpy as np

BAUD = 9600


def load(path):
    with wave.open(path) as file:
        samples = np.frombuffer(file.readframes(file.getnframes()), dtype="<i2")
        return samples / 32768.0, file.getframerate()


def analytic(samples):
    """By taking the negative half of the spectrum away."""
    spectrum = np.fft.fft(samples)
    count = len(samples)
    spectrum[1 : (count + 1) // 2] *= 2
    spectrum[count // 2 + 1 :] = 0
    return np.fft.ifft(spectrum)


def tones(path):
    samples, rate = load(path)
    signal = analytic(samples)
    frequency = np.diff(np.unwrap(np.angle(signal))) * rate / (2 * np.pi)
    level = np.abs(signal)[1:]
    loud = level > 0.5 * np.median(level[level > 0.2 * level.max()])
    # Runs of at least three bits of one tone, without their edges, where the spectrum of the change has died away.
    found = {}
    for name, low, high in (("mark", 600, 1700), ("space", 1700, 2900)):
        steady = loud & (frequency > low) & (frequency < high)
        edges = np.flatnonzero(np.diff(np.concatenate(([0], steady.view(np.int8), [0]))))
        pieces = [
            slice(begin + rate // 1200, end - rate // 1200)
            for begin, end in zip(edges[::2], edges[1::2])
            if end - begin > 3 * rate // 1200
        ]
        found[name] = (
            float(np.mean(np.concatenate([frequency[piece] for piece in pieces]))),
            float(np.sqrt(np.mean(np.concatenate([level[piece] ** 2 for piece in pieces])))),
        )
    twist = 20 * np.log10(found["space"][1] / found["mark"][1])
    print(json.dumps({"markHz": found["mark"][0], "spaceHz": found["space"][0], "twistDb": twist}))


def read_9600(path):
    samples, rate = load(path)
    step = rate / BAUD
    # The moment at which the levels stand furthest from zero, at the mean.
    places = np.arange(int(len(samples) / step) - 1) * step
    grid = np.arange(len(samples))
    best = max(
        np.linspace(0, 1, 16, endpoint=False),
        key=lambda share: np.mean(np.abs(np.interp(places + share * step, grid, samples))),
    )
    line = (np.interp(places + best * step, grid, samples) > 0).astype(int)
    padded = np.concatenate((np.zeros(17, dtype=int), line))
    plain = line ^ padded[5 : 5 + len(line)] ^ padded[: len(line)]
    bits = 1 - (plain ^ np.concatenate(([0], plain[:-1])))
    print("".join(map(str, bits)))


def write_9600(path, rate):
    level, register, line = 0, [0] * 17, []
    for bit in sys.stdin.read().strip():
        level ^= bit == "0"
        sent = level ^ register[11] ^ register[16]
        register = [sent] + register[:16]
        line.append(sent)
    # Square levels through a Gaussian of half a bit: another pulse than that of the code under test.
    count = int(len(line) * rate / BAUD)
    fine = 16
    square = np.repeat(np.array(line) * 2 - 1, fine)
    width = np.arange(-2 * fine, 2 * fine + 1) / fine
    pulse = np.exp(-0.5 * (width / 0.3) ** 2)
    smooth = np.convolve(square, pulse / pulse.sum(), mode="same")
    samples = np.interp(np.arange(count) * BAUD / rate, np.arange(len(smooth)) / fine, smooth)
    with wave.open(path, "wb") as file:
        file.setparams((1, 2, rate, 0, "NONE", ""))
        file.writeframes((samples * 12000).astype("<i2").tobytes())


if __name__ == "__main__":
    command, path = sys.argv[1:3]
    if command == "tones":
        tones(path)
    elif command == "read-9600":
        read_9600(path)
    elif command == "write-9600":
        write_9600(path, int(sys.argv[3]))
    else:
        sys.exit(__doc__)
