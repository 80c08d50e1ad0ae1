"""Trains the ear on what write-corpus.ts wrote, and writes its layers as JSON for pack-ear.ts.

    python3 bench/hearing/train_ear.py --corpus FOLDER --minutes 60 [--continue | --from FILE]

Needs PyTorch (2.x computes in 16 bits where the processor can, five times as fast as Debian's 1.13). Keeps its state in the folder every few minutes and goes on from there, so that it may be
stopped at any time. The network: a layer over the bands of one step, then four over steps around it, each a rectified sum
with what it was given (so that every layer begins as the one before); from each step the log-odds that a note begins there,
how far from it, and how sure that time is.
"""
import argparse
import glob
import json
import os
import time

import numpy as np
import torch
import torch.nn.functional as F

FAMILIES = ["struck", "plucked", "bowed", "blown", "brass", "drum", "voice"]
STEP_S = 0.01
LEAD_STEPS = 6
LONG_LAG = 4
SHORT_LAG = 1
SCALE = 1 / 8
ENCODED = 96
WIDTH = 64
# Steps that each layer looks at; the sums of the last places are what the stream waits for.
TAPS = [(-2, -1, 0, 1), (-4, -2, 0, 1), (-8, -4, 0, 1), (-24, -12, 0)]
CROP = 400
BATCH = 32


def load(folder, which):
    phrases = []
    for path in sorted(glob.glob(os.path.join(folder, which + "-*.json"))):
        try:
            index = json.load(open(path))
        except json.JSONDecodeError:
            continue  # It is just being written.
        shape = (index["longBands"], index["shortBands"])
        width = shape[0] + 2 * shape[1]
        rows = np.memmap(path.replace(".json", ".levels"), dtype=np.uint8, mode="r")
        rows = rows[:len(rows) // width * width].reshape(-1, width)
        at = 0
        for phrase in index["phrases"]:
            phrases.append((rows[at:at + phrase["steps"]], phrase))
            at += phrase["steps"]
    return phrases, shape


def rises(levels, lag):
    """How far each band rose above itself and its neighbours a while ago; the first steps are compared with silence."""
    before = F.max_pool1d(levels, 3, stride=1, padding=1)
    before = F.pad(before.transpose(1, 2), (lag, 0))[..., :-lag].transpose(1, 2)
    return F.relu(levels - before)


def inputs(levels, long_bands, short_bands, family):
    """The numbers of every step, as core/src/signal/ear.ts makes them; levels as bytes, [batch, steps, bands]."""
    x = levels.float() / 16 * SCALE
    long = x[..., :long_bands]
    first = x[..., long_bands:long_bands + short_bands]
    second = x[..., long_bands + short_bands:]
    known = family[:, None, :].expand(-1, x.shape[1], -1)
    return torch.cat([long, rises(long, LONG_LAG), second, rises(first, SHORT_LAG), rises(second, SHORT_LAG), known], -1)


def octaves_of(low_hz, high_hz, per_octave, least_step_hz):
    """The bands' places in octaves, as bandCentresHz of core/src/signal/band-levels.ts puts them."""
    places = []
    hz = low_hz
    while hz <= high_hz:
        places.append(np.log2(hz / 440))
        hz += max(least_step_hz, hz * (2 ** (1 / per_octave) - 1))
    return places


LONG_OCTAVES = octaves_of(55, 4500, 24, 11.7)
SHORT_OCTAVES = octaves_of(60, 16000, 8, 47)
OCTAVES = torch.tensor(LONG_OCTAVES + SHORT_OCTAVES + SHORT_OCTAVES, dtype=torch.float32)


def coloured(levels):
    """Half of the phrases through a microphone of their own: levels with a smooth curve of gains over frequency."""
    count = levels.shape[0]
    turns = torch.rand(count, 3, 1) * 0.5 + torch.tensor([0.0, 0.2, 0.5])[None, :, None]
    waves = torch.sin(2 * np.pi * (turns * OCTAVES + torch.rand(count, 3, 1))) * torch.randn(count, 3, 1) * 4
    gain_db = waves.sum(1) * (torch.rand(count, 1) < 0.5)
    x = levels.float() / 16
    return 16 * torch.log2(1 + 10 ** (gain_db / 20)[:, None, :] * (torch.exp2(x) - 1))


class Ear(torch.nn.Module):
    def __init__(self, width):
        super().__init__()
        self.encoder = torch.nn.Linear(width, ENCODED)
        sizes = [ENCODED] + [WIDTH] * len(TAPS)
        self.layers = torch.nn.ModuleList(
            torch.nn.Linear(sizes[k] * len(taps), sizes[k + 1]) for k, taps in enumerate(TAPS))
        self.head = torch.nn.Linear(WIDTH, 3)
        self.drop = torch.nn.Dropout(0.05)

    def forward(self, x):
        h = self.drop(F.relu(self.encoder(x)))
        for layer, taps in zip(self.layers, TAPS):
            padded = F.pad(h.transpose(1, 2), (24, 4)).transpose(1, 2)
            seen = torch.cat([padded[:, 24 + tap:24 + tap + h.shape[1]] for tap in taps], -1)
            out = layer(seen)
            h = F.relu(out + h) if h.shape[-1] == out.shape[-1] else F.relu(out)
        return self.head(h)


def labels(steps, onsets):
    """Per step: is a note there (1), not (0) or not asked (-1); the time of the nearest note from the step, in steps."""
    kind = np.zeros(steps, np.int8)
    shift = np.zeros(steps, np.float32)
    near = np.zeros(steps, np.int8)
    for t, audible in onsets:
        place = t / STEP_S + LEAD_STEPS
        k = int(round(place))
        if audible == 0:
            kind[max(0, k - 4):k + 5] = -1
    for t, audible in onsets:
        if not audible:
            continue
        place = t / STEP_S + LEAD_STEPS
        k = int(round(place))
        for j in (k - 1, k + 1):
            if 0 <= j < steps and kind[j] == 0:
                kind[j] = -1
        for j in (k - 1, k, k + 1):
            if 0 <= j < steps and (near[j] == 0 or abs(place - j) < abs(shift[j])):
                near[j] = 1
                shift[j] = place - j
        if k < steps:
            kind[k] = 1
    return kind, shift, near


def picked(out):
    """Times of notes: steps whose log-odds top their neighbours and zero, at least 34 ms apart."""
    odds = out[:, 0]
    found = []
    for k in range(len(odds)):
        if odds[k] > 0 and odds[k] == odds[max(0, k - 2):k + 3].max():
            t = (k - LEAD_STEPS + out[k, 1]) * STEP_S
            if found and t - found[-1][0] < 0.034:
                if odds[k] > found[-1][1]:
                    found[-1] = (t, odds[k])
            else:
                found.append((t, odds[k]))
    return [t for t, _ in found]


def score(found, onsets, window=0.025):
    """Hits, false ones, misses and the errors of hits; notes that nobody hears count neither way."""
    free = list(found)
    hits, misses, errors = 0, 0, []
    for audible in (1, 0):
        for t, is_audible in onsets:
            if is_audible != audible:
                continue
            near = [f for f in free if abs(f - t) <= window]
            if near:
                best = min(near, key=lambda f: abs(f - t))
                free.remove(best)
                if audible:
                    hits += 1
                    errors.append(best - t)
            elif audible:
                misses += 1
    return hits, len(free), misses, errors


def evaluate(model, phrases, shape):
    model.eval()
    totals = {}
    with torch.no_grad():
        for rows, phrase in phrases:
            family = torch.zeros(1, len(FAMILIES))
            out = model(inputs(torch.from_numpy(np.array(rows))[None], *shape, family))[0].numpy()
            hits, false, misses, errors = score(picked(out), phrase["onsets"])
            for key in ("all", phrase["family"], phrase["source"].split()[0]):
                one = totals.setdefault(key, [0, 0, 0, []])
                one[0] += hits
                one[1] += false
                one[2] += misses
                one[3] += errors
    model.train()
    return {key: "F1 %.3f P %.3f R %.3f SD %.1f" % (
        2 * h / max(1, 2 * h + f + m), h / max(1, h + f), h / max(1, h + m), 1000 * np.std(e) if e else 0)
        for key, (h, f, m, e) in totals.items()}


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("--corpus", required=True)
    parser.add_argument("--minutes", type=float, default=60)
    parser.add_argument("--threads", type=int, default=1)
    parser.add_argument("--rate", type=float, default=2e-3)
    parser.add_argument("--continue", dest="goes_on", action="store_true")
    parser.add_argument("--from", dest="begins_from", help="layers that pack-ear.ts --unpack wrote")
    options = parser.parse_args()
    torch.set_num_threads(options.threads)
    torch.set_flush_denormal(True)
    torch.manual_seed(3)
    random = np.random.default_rng(3)
    train, shape = load(options.corpus, "trained")
    held, _ = load(options.corpus, "unseen")
    width = shape[0] + 2 * shape[1]
    size = inputs(torch.zeros(1, 8, width, dtype=torch.uint8), *shape, torch.zeros(1, len(FAMILIES))).shape[-1]
    model = Ear(size)
    optimiser = torch.optim.Adam(model.parameters(), lr=options.rate)
    state_path = os.path.join(options.corpus, "ear-state.pt")
    if options.goes_on and os.path.exists(state_path):
        model.load_state_dict(torch.load(state_path))
    elif options.begins_from:
        for module, one in zip([model.encoder, *model.layers, model.head], json.load(open(options.begins_from))):
            module.weight.data = torch.tensor(one["weights"]).reshape(one["outputs"], one["inputs"])
            module.bias.data = torch.tensor(one["biases"])
    # What is kept is the mean of the latest weights: it errs less than any one of them.
    mean = torch.optim.swa_utils.AveragedModel(model, multi_avg_fn=torch.optim.swa_utils.get_ema_multi_avg_fn(0.999))
    known = [labels(len(rows), phrase["onsets"]) for rows, phrase in train]
    loaded = time.time()
    begun = time.time()
    limit = 60 * options.minutes
    step = 0
    sums = np.zeros(2)
    shown = begun
    while time.time() - begun < limit:
        gone = (time.time() - begun) / limit
        for group in optimiser.param_groups:
            group["lr"] = options.rate * (0.5 + 0.5 * np.cos(np.pi * gone)) + 1e-5
        levels, kinds, shifts, nears = [], [], [], []
        family = torch.zeros(BATCH, len(FAMILIES))
        for b in range(BATCH):
            which = random.integers(len(train))
            rows, phrase = train[which]
            kind, shift, near = known[which]
            # The beginning of a recording is seen more often than chance would have it.
            at = 0 if random.random() < 0.2 else random.integers(max(1, len(rows) - CROP))
            levels.append(torch.from_numpy(np.array(rows[at:at + CROP])))
            kinds.append(kind[at:at + CROP])
            shifts.append(shift[at:at + CROP])
            nears.append(near[at:at + CROP])
            if random.random() < 0.4:
                family[b, FAMILIES.index(phrase["family"])] = 1
        kind = torch.from_numpy(np.stack(kinds))
        shift = torch.from_numpy(np.stack(shifts))
        near = torch.from_numpy(np.stack(nears)).bool()
        seen = inputs(coloured(torch.stack(levels)), *shape, family)
        with torch.autocast("cpu", dtype=torch.bfloat16):
            out = model(seen)
        out = out.float()
        # What a layer cannot see at the edges of a crop is not asked.
        inside = torch.zeros(CROP, dtype=torch.bool)
        inside[40:-4] = True
        inside = inside[None].expand(BATCH, -1)
        asked = (kind >= 0) & inside
        odds = F.binary_cross_entropy_with_logits(out[..., 0][asked], (kind == 1).float()[asked], reduction="mean")
        timed = near & inside
        spread = out[..., 2][timed].clamp(-4, 3)
        error = (out[..., 1][timed] - shift[timed]).abs()
        timing = (error * torch.exp(-spread) + spread).mean()
        loss = odds * 20 + timing * 0.2
        optimiser.zero_grad()
        loss.backward()
        torch.nn.utils.clip_grad_norm_(model.parameters(), 5)
        optimiser.step()
        mean.update_parameters(model)
        sums += (odds.item(), timing.item())
        step += 1
        if time.time() - loaded > 600:
            # The corpus may have grown meanwhile.
            loaded = time.time()
            train, _ = load(options.corpus, "trained")
            known = [labels(len(rows), phrase["onsets"]) for rows, phrase in train]
        if time.time() - shown > 120:
            shown = time.time()
            every = evaluate(mean.module, held[:60], shape)
            print("%5d s, step %d, odds %.5f, timing %.3f | %s" % (
                time.time() - begun, step, sums[0] / step, sums[1] / step, every.get("all")), flush=True)
            sums[:] = 0
            step = 0
            torch.save(mean.module.state_dict(), state_path)
    torch.save(mean.module.state_dict(), state_path)
    for key, line in evaluate(mean.module, held, shape).items():
        print("%-12s %s" % (key, line), flush=True)
    ear = mean.module
    layers = [ear.encoder, *ear.layers, ear.head]
    json.dump([{"inputs": one.in_features, "outputs": one.out_features, "weights": one.weight.detach().flatten().tolist(),
                "biases": one.bias.detach().tolist()} for one in layers], open(os.path.join(options.corpus, "ear.json"), "w"))


main()
