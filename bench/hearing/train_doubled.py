"""Trains what tells doubled attacks from single ones: python3 bench/hearing/train_doubled.py ATTACKS OUT.json ."""
import argparse
import json

import numpy as np
import torch

parser = argparse.ArgumentParser()
parser.add_argument("attacks")
parser.add_argument("out")
parser.add_argument("--features", type=int, default=697)
parser.add_argument("--epochs", type=int, default=60)
options = parser.parse_args()
torch.manual_seed(4)
torch.set_num_threads(1)
rows = torch.from_numpy(np.fromfile(options.attacks, np.float32).reshape(-1, options.features + 2))
kept = torch.arange(len(rows)) // 24 % 12 == 0  # Whole recordings, to see when it begins to learn by heart.
train, held = rows[~kept], rows[kept]
model = torch.nn.Sequential(
    torch.nn.Linear(options.features, 96), torch.nn.ReLU(), torch.nn.Dropout(0.1),
    torch.nn.Linear(96, 48), torch.nn.ReLU(), torch.nn.Linear(48, 2))
rate = 2e-3
optimiser = torch.optim.AdamW(model.parameters(), lr=rate, weight_decay=0.05)


def loss_of(batch, smear):
    x = batch[:, :options.features]
    if smear:
        x = x + 0.02 * torch.randn_like(x)
    out = model(x)
    doubled = batch[:, -2]
    odds = torch.nn.functional.binary_cross_entropy_with_logits(out[:, 0], doubled)
    gap = ((out[:, 1] - batch[:, -1]).abs() * doubled).sum() / doubled.sum().clamp(min=1)
    return odds + 0.3 * gap, odds


for epoch in range(options.epochs):
    model.train()
    for group in optimiser.param_groups:
        group["lr"] = rate * 0.5 * (1 + np.cos(np.pi * epoch / options.epochs))
    for batch in train[torch.randperm(len(train))].split(256):
        loss, _ = loss_of(batch, True)
        optimiser.zero_grad()
        loss.backward()
        optimiser.step()
    model.eval()
    with torch.no_grad():
        print(epoch, "train %.4f held %.4f" % (loss_of(train[:4000], False)[1], loss_of(held, False)[1]), flush=True)
layers = [layer for layer in model if isinstance(layer, torch.nn.Linear)]
json.dump([{"inputs": one.in_features, "outputs": one.out_features, "weights": one.weight.detach().flatten().tolist(),
            "biases": one.bias.detach().tolist()} for one in layers], open(options.out, "w"))
