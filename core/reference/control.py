"""Loops closed by scipy, as a second way of computing what core/src/control does: python3 core/reference/control.py > core/reference/control.json

Written from the definitions alone; the delay is exact in the margins, and an all-pass of order 4 in poles and steps.
"""

import json
import math

import numpy as np
from scipy import optimize, signal

A = np.array([[-0.05, 0.27, -0.05, -9.80665], [-0.75, -5.7, 24.2, 0.0], [0.12, -1.37, -21.8, 0.0], [0.0, 0.0, 1.0, 0.0]])
B = np.array([[-0.65], [-6.0], [-62.0], [0.0]])
LOOPS = [
    {"from": "q", "to": "elevator", "kp": 0.3, "ki": 0.0, "kd": 0.0, "sign": -1, "actuator": {"naturalFrequency": 40.0, "dampingRatio": 0.7}, "delay": 0.015},
    {"from": "theta", "to": "elevator", "kp": 2.5, "ki": 0.6, "kd": 0.15, "filter": 30.0, "sign": 1, "delay": 0.0},
]
STATES = ["u", "w", "q", "theta"]


def law(loop, pade):
    """Numerator and denominator of law, actuator and delay."""
    s = np.poly1d([1.0, 0.0])
    n = loop.get("filter", 1.0)
    if loop["kd"]:
        num = (loop["kp"] * s + loop["ki"]) * (s + n) + loop["kd"] * n * s * s
        den = s * (s + n)
    elif loop["ki"]:
        num, den = loop["kp"] * s + loop["ki"], s
    else:
        num, den = np.poly1d([loop["kp"]]), np.poly1d([1.0])
    num = num * loop["sign"]
    a = loop.get("actuator")
    if a:
        w, z = a["naturalFrequency"], a["dampingRatio"]
        num, den = num * w * w, den * np.poly1d([1.0, 2 * z * w, w * w])
    if pade and loop["delay"] > 0:
        order, t = 4, loop["delay"]
        c = [math.comb(order, k) * math.factorial(2 * order - k) / math.factorial(2 * order) for k in range(order + 1)]
        num = num * np.poly1d([c[k] * (-t) ** k for k in range(order, -1, -1)])
        den = den * np.poly1d([c[k] * t**k for k in range(order, -1, -1)])
    return num, den


def close(A, b, c, chain):
    """x' = A x + b v, y = c x; v = chain (r - y). Returns A, b, c of the closed loop from r to y."""
    n, d = chain
    ca, cb, cc, cd = signal.tf2ss(n.coeffs, d.coeffs)
    k = ca.shape[0]
    big = np.block([[A - b @ cd @ c, b @ cc], [-cb @ c, ca]])
    bb = np.vstack([b @ cd, cb])
    return big, bb, np.hstack([c, np.zeros((1, k))])


def margins(open_loop):
    grid = np.geomspace(1e-3, 2e3, 400000)
    v = open_loop(grid)
    size, gains, phases = np.log(np.abs(v)), [], []
    for i in np.where(size[:-1] * size[1:] < 0)[0]:
        gains.append(optimize.brentq(lambda w: math.log(abs(open_loop(np.array([w]))[0])), grid[i], grid[i + 1], xtol=1e-14))
    for i in np.where(v.imag[:-1] * v.imag[1:] < 0)[0]:
        w = optimize.brentq(lambda w: open_loop(np.array([w]))[0].imag, grid[i], grid[i + 1], xtol=1e-14)
        if open_loop(np.array([w]))[0].real < 0:
            phases.append(w)
    gm = [-20 * math.log10(abs(open_loop(np.array([w]))[0])) for w in phases]
    pm = [(180 + math.degrees(np.angle(open_loop(np.array([w]))[0])) + 180) % 360 - 180 for w in gains]
    i, j = int(np.argmin(np.abs(gm))), int(np.argmin(np.abs(pm)))
    return {"gainMarginDb": gm[i], "phaseCrossover": phases[i], "phaseMarginDeg": pm[j], "gainCrossover": gains[j]}


def step(A, b, c):
    slow = min(-np.linalg.eigvals(A).real)
    t = np.linspace(0, 12 / slow, 400001)
    _, y = signal.step(signal.StateSpace(A, b, c, np.zeros((1, 1))), T=t)
    final = float((-c @ np.linalg.solve(A, b))[0, 0])
    if abs(final) < 1e-6:
        # Nothing is left at rest: there is no step to measure.
        return {"riseTime": None, "overshoot": None, "settlingTime": None, "finalValue": None}
    share = y / final
    out = np.where(np.abs(share - 1) > 0.02)[0]
    first = lambda v: t[np.argmax(share >= v)]
    return {"riseTime": first(0.9) - first(0.1), "overshoot": max(0.0, share.max() - 1), "settlingTime": t[out[-1] + 1], "finalValue": final}


results = []
plant, b = A, B
for loop in LOOPS:
    c = np.zeros((1, plant.shape[0]))
    c[0, STATES.index(loop["from"])] = 1.0
    still = law(loop, False)

    def open_loop(w, plant=plant, b=b, c=c, still=still, delay=loop["delay"]):
        s = 1j * w
        p = np.array([(c @ np.linalg.solve(v * np.eye(plant.shape[0]) - plant, b))[0, 0] for v in s]) if len(w) < 10 else signal.freqresp(signal.StateSpace(plant, b, c, np.zeros((1, 1))), w)[1]
        return still[0](s) / still[1](s) * np.exp(-s * delay) * p

    m = margins(open_loop)
    plant, b, c = close(plant, b, c, law(loop, True))
    poles = sorted(([p.real, p.imag] for p in np.linalg.eigvals(plant)), key=lambda p: (round(p[0], 9), p[1]))
    results.append({**m, **step(plant, b, c), "closedPoles": poles})
print(json.dumps({"model": {"A": A.tolist(), "B": B.tolist(), "states": STATES, "inputs": ["elevator"], "loops": LOOPS}, "loops": results}, indent=1))
