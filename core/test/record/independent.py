"""Values of the formulas worked out another way: numpy and scipy, from the laws and not from the formulas.

Writes core/test/fixtures/independent.json: for each formula points at random (the seed is fixed), what comes out here, and how.
Run it from anywhere: python3 core/test/record/independent.py [--print]
"""
import json
import sys
from math import log, pi, sqrt, acosh, asinh
from pathlib import Path

import numpy as np
from scipy import integrate, linalg, optimize, special

MU0, EPS0 = 4e-7 * pi, 8.8541878128e-12
rng = np.random.default_rng(20260321)
rows = []


def between(low, high):
    return float(f"{np.exp(rng.uniform(log(low), log(high))):.5g}")


def whole(low, high):
    return int(rng.integers(low, high + 1))


def case(formula, by, points, draw, work):
    """`points` draws of `draw()`, each worked by `work(**values)`; a draw it cannot do is drawn again."""
    done = 0
    while done < points:
        values = draw()
        expected = work(**values)
        if expected is None:
            continue
        rows.append({"formula": formula, "by": by, "values": values, "expected": float(f"{expected:.12g}")})
        done += 1


def run(f, y0, t1, event=None, **more):
    """A system of differential equations by an eighth-order Runge-Kutta method."""
    if event is not None:
        event.terminal = True
    return integrate.solve_ivp(f, (0, t1), y0, method="DOP853", rtol=1e-11, atol=more.pop("atol", 1e-14), events=event, **more)


def until(f, y0, t1, event, **more):
    s = run(f, y0, t1, event, **more)
    return (s.t_events[0][0], s.y_events[0][0]) if len(s.t_events[0]) else None


ODE = "integrated by an eighth-order Runge-Kutta method"
QUAD = "integrated by adaptive Gauss and Kronrod"
NODES = "nodal equations solved as a matrix"
ELLIPTIC = "complete elliptic integrals of a general library"
BESSEL = "Bessel functions of a general library"
ROOT = "a root found by Brent's method"

# ---- networks -------------------------------------------------------------------------------------------------------


def two_pole(edges):
    """Admittance between node 0 and the last, of (a, b, admittance) edges."""
    n = 1 + max(max(a, b) for a, b, _ in edges)
    y = np.zeros((n, n))
    for a, b, g in edges:
        y[a, a] += g
        y[b, b] += g
        y[a, b] -= g
        y[b, a] -= g
    rest = np.linalg.solve(y[1:-1, 1:-1], -y[1:-1, -1]) if n > 2 else np.zeros(0)
    v = np.concatenate([[0], rest, [1]])
    return float(y[-1] @ v), v


def bank(g, ns, np_):
    return [(k, k + 1, g * np_) for k in range(ns)]


case("series-parallel-capacitance", NODES, 12, lambda: dict(C=between(1e-9, 1e-2), ns=whole(1, 9), np=whole(1, 9)),
     lambda C, ns, np: two_pole(bank(C, ns, np))[0])
case("bank-resistance", NODES, 12, lambda: dict(R=between(1e-3, 1e6), ns=whole(1, 9), np=whole(1, 9)),
     lambda R, ns, np: 1 / two_pole(bank(1 / R, ns, np))[0])
case("bank-inductance", NODES, 12, lambda: dict(L=between(1e-9, 1e-3), ns=whole(1, 9), np=whole(1, 9)),
     lambda L, ns, np: 1 / two_pole(bank(1 / L, ns, np))[0])


def worst_of_string(V, ns, m, p, small):
    g = [1 - m if small else 1 + p] + [1 + p if small else 1 - m] * (ns - 1)
    _, v = two_pole([(k, k + 1, x) for k, x in enumerate(g)])
    return V * abs(v[1] - v[0])


def corner_c(V, ns, m, p):
    return worst_of_string(V, ns, m, p, True)


def corner_r(V, ns, m, p):
    # The conductance of a resistor at 1 + p is 1/(1 + p).
    g = [1 / (1 + p)] + [1 / (1 - m)] * (ns - 1)
    _, v = two_pole([(k, k + 1, x) for k, x in enumerate(g)])
    return V * v[1]


corners = lambda: dict(V=between(10, 1e5), ns=whole(2, 12), m=between(0.01, 0.3), p=between(0.01, 0.5))
case("series-element-voltage", NODES, 12, corners, corner_c)
case("highest-resistor-share", NODES, 12, corners, corner_r)
case("parallel-resistance", NODES, 10, lambda: dict(R1=between(1, 1e7), R2=between(1, 1e7)),
     lambda R1, R2: 1 / two_pole([(0, 1, 1 / R1), (0, 1, 1 / R2)])[0])
case("divider-voltage", NODES, 10, lambda: dict(Vs=between(10, 1e5), R=between(1, 1e7), Rb=between(1, 1e7)),
     lambda Vs, R, Rb: Vs * two_pole([(0, 1, 1 / Rb), (1, 2, 1 / R)])[1][1])
case("divider-ratio", NODES, 10, lambda: dict(R1=between(1e5, 1e10), R2=between(1e3, 1e7), Rm=between(1e6, 1e9)),
     lambda R1, R2, Rm: 1 / two_pole([(0, 1, 1 / R2 + 1 / Rm), (1, 2, 1 / R1)])[1][1])
case("series-of-two-capacitances", NODES, 10, lambda: dict(C1=between(1e-12, 1e-3), C2=between(1e-12, 1e-3)),
     lambda C1, C2: two_pole([(0, 1, C1), (1, 2, C2)])[0])
case("delta-element", NODES, 10, lambda: dict(Sa=between(1e-6, 2e-6), Sb=between(1e-6, 2e-6), Sc=between(1e-6, 1.5e-6)),
     lambda Sa, Sb, Sc: float(np.linalg.solve([[1, 1, 0], [1, 0, 1], [0, 1, 1]], [Sa, Sb, Sc])[0]) if Sa + Sb > 1.1 * Sc else None)
case("balance-resistor", ROOT, 10, lambda: dict(n=whole(2, 10), Vm=450, Vb=between(600, 3000), I=between(1e-4, 1e-2)),
     lambda n, Vm, Vb, I: None if Vb >= 0.95 * n * Vm else optimize.brentq(
         lambda R: two_pole([(0, 1, 1 / R)] + [(k, k + 1, 1 / R) for k in range(1, n)])[1][1] * Vb + I * R * (n - 1) / n - Vm, 1, 1e9, xtol=1e-300, rtol=1e-13))

# ---- charging -------------------------------------------------------------------------------------------------------

case("stored-energy", QUAD, 10, lambda: dict(C=between(1e-12, 1), V=between(1, 1e6)),
     lambda C, V: integrate.quad(lambda q: q / C, 0, C * V)[0])


def rc_time(R, C, Vs, V):
    if V > 0.999 * Vs:
        return None
    return until(lambda t, y: (Vs - y) / (R * C), [0.0], 60 * R * C, lambda t, y: y[0] - V, atol=1e-14 * Vs)[0]


case("rc-charge-time", ODE, 12, lambda: dict(R=between(1, 1e7), C=between(1e-9, 1e-2), Vs=between(10, 1e5), V=between(1, 1e5)), rc_time)


def limited(I, R, Vs):
    return lambda v: min(I, (Vs - v) / R)


def power(P, I, R, Vs):
    def i(v):
        u = (v + sqrt(v * v + 4 * P * R)) / 2 if R else v
        return min(I, P / u if u else np.inf, (Vs - v) / R if R else np.inf)
    return i


lim = lambda: dict(I=between(1e-3, 1), R=between(10, 1e4), C=between(1e-7, 1e-3), Vs=between(100, 1e4), Rb=between(1e5, 1e8), V=between(50, 1e4))


def by_pieces(current, C, Rb, V, R, corners):
    """The same as integrals over the voltage, broken where the characteristic bends."""
    net = lambda v: current(v) - v / Rb
    if any(net(v) < 1e-2 * current(0) for v in np.linspace(0, V, 400)):
        return None
    cuts = [0] + sorted(x for x in corners if 0 < x < V) + [V]
    both = [0.0, 0.0]
    for a, b in zip(cuts, cuts[1:]):
        both[0] += integrate.quad(lambda v: C / net(v), a, b, epsabs=0, epsrel=1e-12, limit=400)[0]
        both[1] += integrate.quad(lambda v: C * R * current(v) ** 2 / net(v), a, b, epsabs=0, epsrel=1e-12, limit=400)[0]
    return both


def lim_of(k):
    return lambda I, R, C, Vs, Rb, V: (lambda s: s and s[k])(by_pieces(limited(I, R, Vs), C, Rb, V, R, [Vs - I * R])) if V < 0.98 * Vs else None


case("current-limited-charge-time", QUAD, 12, lim, lim_of(0))
case("current-limited-charging-loss", QUAD, 12, lim, lim_of(1))
pow_ = lambda: dict(P=between(1, 200), **lim())


def pow_of(k):
    def of(P, I, R, C, Vs, Rb, V):
        if V >= 0.98 * Vs:
            return None
        corners = [P / I - I * R, Vs - I * R]
        # Where power and voltage limit meet: P/u = (Vs − v)/R at u = v + iR = Vs.
        corners.append(Vs - R * P / Vs)
        s = by_pieces(power(P, I, R, Vs), C, Rb, V, R, corners)
        return s and s[k]
    return of


case("power-limited-charge-time", QUAD, 16, pow_, pow_of(0))
case("power-limited-charging-loss", QUAD, 16, pow_, pow_of(1))


def loss(R, Rb, C, Vs, V):
    s = by_pieces(lambda v: (Vs - v) / R, C, Rb, V, R, []) if V < 0.99 * Vs else None
    return s and s[1]


case("charging-loss", QUAD, 12, lambda: dict(R=between(10, 1e6), Rb=between(1e5, 1e9), C=between(1e-9, 1e-2), Vs=between(10, 1e5), V=between(5, 1e5)), loss)


def rectified(Vp, R, X, p, V):
    """Mean current of a rectifier behind R and X into a store that stands: pulse after pulse, each till its current is nought."""
    if V > 0.95 * Vp:
        return None
    period = 2 * pi / p
    start, total, pulses = float(np.arcsin(V / Vp)), 0.0, 0
    for pulse in range(60):
        f = lambda th, y: [(Vp * np.sin(th) - V - R * y[0]) / X, y[0]]
        def dead(th, y):
            return y[0]
        dead.direction = -1
        dead.terminal = True
        s = integrate.solve_ivp(f, (start, start + 4 * pi), [0.0, 0.0], method="DOP853", rtol=1e-11, atol=1e-14 * Vp / max(R, X), events=dead, max_step=0.1)
        end = s.t_events[0][0]
        charge = s.y_events[0][0][1]
        if pulse >= 40:
            total += charge
            pulses += 1
        # The next pulse, in its own angle: when its source passes the store, or when this one lets it.
        start = max(float(np.arcsin(V / Vp)), end - period)
    return total / (pulses * period)


case("rectifier-current", ODE + ", cycle after cycle until it repeats", 8,
     lambda: dict(Vp=between(100, 2e4), R=between(10, 1e4), X=between(20, 1e4), p=whole(1, 2), V=between(10, 1e4)), rectified)

# ---- chokes ---------------------------------------------------------------------------------------------------------

ring = lambda: dict(R=between(0.01, 100), L=between(1e-6, 10), C=between(1e-9, 1e-3))


def choke_first_peak(Vs, R, L, C):
    z = R / 2 * sqrt(C / L)
    if not 0.001 < z < 0.7:
        return None
    w = 1 / sqrt(L * C)
    # In units of the ring: u'' + 2ζu' + u = 1.
    def stop(t, y):
        return y[1]
    stop.direction = -1
    _, y = until(lambda t, y: [y[1], 1 - y[0] - 2 * z * y[1]], [0.0, 1e-300], 20, stop)
    return Vs * y[0]


case("resonant-charge-voltage", ODE, 10, lambda: dict(Vs=between(10, 1e5), **ring()), choke_first_peak)


def choke_loss(Vs, R, L, C):
    z = R / 2 * sqrt(C / L)
    if not 0.01 < z < 0.7:
        return None
    def stop(t, y):
        return y[1]
    stop.direction = -1
    _, y = until(lambda t, y: [y[1], 1 - y[0] - 2 * z * y[1], y[1] ** 2], [0.0, 1e-300, 0.0], 20, stop)
    return y[2] * Vs**2 * C * 2 * z


case("choke-charging-loss", ODE, 10, lambda: dict(Vs=between(10, 1e5), **ring()), choke_loss)
def choke_time(Vs, R, L, C, V):
    z = R / 2 * sqrt(C / L)
    if not 0.001 < z < 0.7 or not 0.05 < V / Vs < 1.2:
        return None
    hit = until(lambda t, y: [y[1], 1 - y[0] - 2 * z * y[1]], [0.0, 0.0], 3.2, lambda t, y: y[0] - V / Vs)
    return hit and hit[0] * sqrt(L * C)


case("choke-charge-time", ODE, 10, lambda: dict(Vs=between(10, 1e5), V=between(10, 1e5), **ring()), choke_time)

# ---- discharge ------------------------------------------------------------------------------------------------------

loop = lambda: dict(R=between(1e-3, 100), L=between(1e-8, 1e-2), C=between(1e-9, 1e-2))


def shot(R, L, C):
    """Peak, its time, reversal, and the action to the first zero of the current, in units of the loop; None if too damped or too weak."""
    z = R / 2 * sqrt(C / L)
    if not 0.002 < z < 3 or abs(z - 1) < 0.01:
        return None
    top = lambda t, y: y[0] - 2 * z * y[1]
    top.direction = -1
    f = lambda t, y: [-y[1], y[0] - 2 * z * y[1], y[1] ** 2]
    tp, yp = until(f, [1.0, 0.0, 0.0], 60, top)
    if z >= 1:
        return dict(ip=yp[1], tp=tp, k=0.0, a=None, z=z)
    zero = lambda t, y: y[1] if t > 1e-9 else 1.0
    zero.direction = -1
    hit = until(f, [1.0, 0.0, 0.0], 400, zero)
    return dict(ip=yp[1], tp=tp, k=-hit[1][0], a=hit[1][2], z=z) if hit else None


def of_shot(what):
    def of(R, L, C, V=1.0):
        s = shot(R, L, C)
        return s and what(s, R, L, C, V)
    return of


withv = lambda: dict(V=between(10, 1e6), **loop())
case("rlc-peak-current", ODE, 14, withv, of_shot(lambda s, R, L, C, V: s["ip"] * V * sqrt(C / L)))
case("rlc-time-to-peak", ODE, 14, loop, of_shot(lambda s, R, L, C, V: s["tp"] * sqrt(L * C)))
case("rlc-voltage-reversal", ODE, 14, loop, of_shot(lambda s, R, L, C, V: s["k"] if 1e-3 < s["k"] else None))


def action_total(C, V, R):
    L = (R * 0.7) ** 2 * C
    s = run(lambda t, y: [-y[1], y[0] - 2 * z * y[1], y[1] ** 2], [1.0, 0.0, 0.0], 200) if (z := R / 2 * sqrt(C / L)) else None
    return s.y[2, -1] * V**2 * C / L * sqrt(L * C)


case("action-integral", ODE, 6, lambda: dict(C=between(1e-9, 1e-2), V=between(10, 1e6), R=between(1e-3, 100)), action_total)


def freewheel(V, R, L, C):
    z = R / 2 * sqrt(C / L)
    if not 0.002 < z < 0.95:
        return None
    _, y = until(lambda t, y: [-y[1], y[0] - 2 * z * y[1]], [1.0, 0.0], 60, lambda t, y: y[0])
    return y[1] * V * sqrt(C / L)


case("freewheel-current", ODE, 12, withv, freewheel)


def to_action(A, R, L, C, V):
    z = R / 2 * sqrt(C / L)
    share = A * R / (0.5 * C * V * V)
    if not 0.05 < z < 3 or not 0.01 < share < 0.9:
        return None
    goal = A / (V**2 * C / L * sqrt(L * C))
    return until(lambda t, y: [-y[1], y[0] - 2 * z * y[1], y[1] ** 2], [1.0, 0.0, 0.0], 400, lambda t, y: y[2] - goal)[0] * sqrt(L * C)


case("time-to-action", ODE, 10, lambda: dict(A=between(1, 1e6), **withv()), to_action)

def transfer_peak(V, C1, C2, k):
    # The loop whose reversal is k, integrated.
    zeta = -log(k) / sqrt(pi**2 + log(k) ** 2)
    C = C1 * C2 / (C1 + C2)
    zero = lambda t, y: y[2] if t > 1e-9 else 1.0
    zero.direction = -1
    f = lambda t, y: [-y[2] * C / C1, y[2] * C / C2, y[0] - y[1] - 2 * zeta * y[2]]
    return until(f, [1.0, 0.0, 0.0], 20, zero)[1][1] * V


case("transfer-peak-voltage", ODE, 10, lambda: dict(V=between(10, 1e6), C1=between(1e-9, 1e-6), C2=between(1e-9, 1e-6), k=between(0.05, 0.95)), transfer_peak)


def transfer_loss(V, C1, C2):
    C = C1 * C2 / (C1 + C2)
    s = run(lambda t, y: [-y[2] * C / C1, y[2] * C / C2, y[0] - y[1] - 1.3 * y[2], 1.3 * y[2] ** 2], [1.0, 0.0, 0.0, 0.0], 200)
    return s.y[3, -1] * V**2 * C


case("transfer-loss", ODE, 8, lambda: dict(V=between(10, 1e6), C1=between(1e-9, 1e-6), C2=between(1e-9, 1e-6)), transfer_loss)

# ---- bleeding -------------------------------------------------------------------------------------------------------

case("rc-bleed-time", ODE, 12, lambda: dict(R=between(1, 1e9), C=between(1e-9, 1e-1), V0=between(100, 1e6), V=between(1, 99)),
     lambda R, C, V0, V: R * C * until(lambda t, y: -y, [V0], 40, lambda t, y: y[0] - V, atol=1e-13)[0])


def lamp(C, V0, Vz, Rs, Rp, Rl, Vf, Il):
    """The tool as a circuit: a clamp across Rp and the lamp's branch, all behind Rs; until the lamp has Il left."""
    if Vz < Vf + 2 * Il * Rl or V0 < 2 * Vz:
        return None
    def node(v):
        free = (v / Rs + Vf / Rl) / (1 / Rs + 1 / Rp + 1 / Rl)
        if free < Vf:
            free = v * Rp / (Rs + Rp)
        return min(free, Vz)
    f = lambda t, y: [-(y[0] - node(y[0])) / Rs / C]
    clamp = Vz + Rs * (Vz / Rp + (Vz - Vf) / Rl)
    t1 = until(f, [V0], 100 * Rs * C, lambda t, y: y[0] - clamp, atol=1e-12 * V0)
    out = Vf + Il * Rl + Rs * ((Vf + Il * Rl) / Rp + Il)
    if t1 is None or clamp > V0:
        return None
    t2 = until(f, [clamp], 1e4 * (Rs + Rp) * C, lambda t, y: y[0] - out, atol=1e-12)
    return t2 and t1[0] + t2[0]


case("lamp-on-time", ODE, 8, lambda: dict(C=between(1e-5, 1e-2), V0=between(100, 500), Vz=between(5, 30), Rs=between(500, 1e4), Rp=between(1e3, 1e6),
                                          Rl=between(100, 2000), Vf=2.0, Il=between(1e-4, 1e-3)), lamp)

# ---- ladders and impulses -------------------------------------------------------------------------------------------


def ladder_matrix(n, R, C, Rs):
    g = np.zeros((n, n))
    for k in range(n):
        r = R + (Rs if k == 0 else 0)
        g[k, k] += 1 / r
        if k:
            g[k - 1, k - 1] += 1 / r
            g[k, k - 1] -= 1 / r
            g[k - 1, k] -= 1 / r
    return g / C


def ladder_time(n, R, C, x, Rs):
    w, u = linalg.eigh(ladder_matrix(n, R, C, Rs))
    c = u.T @ np.ones(n)
    lack = lambda t: float(u[-1] @ (c * np.exp(-w * t))) - (1 - x)
    return optimize.brentq(lack, 0, 60 / w[0], xtol=1e-300, rtol=1e-13)


case("ladder-charge-time", "eigenvalues of the ladder's matrix, " + ROOT, 12,
     lambda: dict(n=whole(1, 20), R=between(1e3, 1e6), C=between(1e-10, 1e-6), x=between(0.3, 0.999), Rs=between(100, 1e7)), ladder_time)
case("ladder-share", "exponential of the ladder's matrix", 12,
     lambda: dict(n=12, m=whole(1, 12), R=between(1e3, 1e6), C=between(1e-10, 1e-6), t=between(1e-3, 1), Rs=between(100, 1e7)),
     lambda n, m, R, C, t, Rs: (lambda y: y if y > 1e-3 else None)(
         1 - float((linalg.expm(-ladder_matrix(n, R, C, Rs) * t) @ np.ones(n))[m - 1])))


def impulse(C1, C2, Rf, Rt):
    """Two capacitors, front resistor between them, tail resistor across the first."""
    a = np.array([[-1 / (C1 * Rt) - 1 / (C1 * Rf), 1 / (C1 * Rf)], [1 / (C2 * Rf), -1 / (C2 * Rf)]])
    w, u = np.linalg.eig(a)
    c = np.linalg.solve(u, [1.0, 0.0])
    v = lambda t: float(np.real(u[1] @ (c * np.exp(w * t))))
    slope = lambda t: float(np.real(u[1] @ (c * w * np.exp(w * t))))
    fast = 1 / max(abs(w))
    tp = optimize.brentq(slope, 1e-3 * fast, 40 / min(abs(w)), xtol=1e-300, rtol=1e-13)
    vp = v(tp)
    at = lambda share, lo, hi: optimize.brentq(lambda t: v(t) - share * vp, lo, hi, xtol=1e-300, rtol=1e-13)
    t30, t90 = at(0.3, 0, tp), at(0.9, 0, tp)
    t1 = (t90 - t30) / 0.6
    return vp, t1, at(0.5, tp, tp + 40 / min(abs(w))) - (t30 - 0.3 * t1)


wave = lambda: dict(C1=between(1e-9, 1e-6), C2=between(1e-11, 1e-9), Rf=between(10, 5e3), Rt=between(100, 1e5))
for k, name in enumerate(["impulse-efficiency", "impulse-front-time", "impulse-tail-time"]):
    case(name, "eigenvalues of the circuit, " + ROOT, 10, wave, (lambda k: lambda **v: impulse(**v)[k] if v["Rt"] * v["C1"] > 20 * v["Rf"] * v["C2"] else None)(k))

# ---- coils ----------------------------------------------------------------------------------------------------------


def loops(a, b, z):
    m = 4 * a * b / ((a + b) ** 2 + z * z)
    k = sqrt(m)
    return MU0 * sqrt(a * b) * ((2 / k - k) * special.ellipk(m) - 2 / k * special.ellipe(m))


def sheet(N, D, l):
    """Lorenz: the current sheet by elliptic integrals."""
    r = D / 2
    m = 4 * r * r / (4 * r * r + l * l)
    k = sqrt(m)
    K, E = special.ellipk(m), special.ellipe(m)
    return MU0 * N**2 / (3 * l * l) * 8 * r**3 * ((2 * m - 1) / k**3 * E + (1 - m) / k**3 * K - 1)


case("solenoid-inductance", ELLIPTIC + ", Lorenz", 12, lambda: dict(N=whole(5, 500), D=between(0.01, 0.5), l=between(0.01, 1)), sheet)


def field(N, I, D1, D2, l, z):
    if D2 < 1.05 * D1:
        return None
    j = N * I / (l * (D2 - D1) / 2)
    f = lambda r: MU0 * j / 2 * ((z + l / 2) / sqrt((z + l / 2) ** 2 + r * r) - (z - l / 2) / sqrt((z - l / 2) ** 2 + r * r))
    return integrate.quad(f, D1 / 2, D2 / 2, epsrel=1e-12)[0]


case("solenoid-field", QUAD + ", Biot and Savart", 10,
     lambda: dict(N=whole(5, 500), I=between(1, 1e4), D1=between(0.01, 0.2), D2=between(0.02, 0.4), l=between(0.01, 0.5), z=between(1e-3, 0.3)), field)


def kelvin(d, delta):
    q = (1 - 1j) * d / (2 * delta)
    return float(np.real(q * special.jv(0, q) / (2 * special.jv(1, q))))


case("skin-resistance-ratio", BESSEL, 10, lambda: dict(d=between(1e-4, 1e-2), delta=between(1e-4, 1e-2)), kelvin)


def spiral(r0, p, a, n, d):
    k = np.arange(n)
    r, h = r0 + (k + 0.5) * p * sqrt(1 - a * a), k * p * a
    # A current on the skin: Rosa and Grover without the part inside the conductor.
    own = sum(MU0 * x * (log(16 * x / d) - 2) for x in r)
    return own + sum(2 * loops(r[i], r[j], h[i] - h[j]) for i in range(n) for j in range(i))


case("spiral-inductance", ELLIPTIC + ", every pair of turns", 8,
     lambda: dict(r0=between(0.05, 0.3), p=between(0.005, 0.03), a=between(0.05, 1), n=whole(2, 15), d=between(1e-3, 4e-3)), spiral)


def spheres(D, d):
    """Charge on one of two like balls while the other is at 1 V and it at 0: what lies between them, without what each has to earth."""
    a, c = D / 2, D + d
    q, x, on_other = a, 0.0, 0.0
    for k in range(1, 8000):
        q, x = -q * a / (c - x), a * a / (c - x)
        if k % 2:
            on_other += q
        if abs(q) < 1e-16 * a:
            break
    return -4 * pi * EPS0 * on_other


case("sphere-gap-capacitance", "image charges summed", 10, lambda: dict(D=between(0.005, 1), d=between(0.001, 1)), spheres)


def heating(A, d, rho, alpha, gamma):
    s = A / (pi * d * d / 4) ** 2
    if s * rho / gamma * alpha > 3:
        return None
    return run(lambda t, y: [rho * (1 + alpha * y[0]) * s / gamma], [0.0], 1).y[0, -1]


case("pulse-heating", ODE, 8, lambda: dict(A=between(10, 1e6), d=between(2e-4, 5e-3), rho=1.72e-8, alpha=0.0039, gamma=3.4e6), heating)

# ---- coupled circuits -----------------------------------------------------------------------------------------------


def coupled(R1, L1, C1, R2, L2, C2, k, V):
    M = k * sqrt(L1 * L2)
    inv = np.linalg.inv([[L1, M], [M, L2]])
    a = np.zeros((4, 4))
    a[:2, :2] = -inv @ np.diag([R1, R2])
    a[:2, 2:] = inv @ np.diag([1, -1])
    a[2, 0], a[3, 1] = -1 / C1, 1 / C2
    return a


pair = lambda: dict(R1=between(0.01, 0.5), L1=between(2e-6, 2e-4), C1=between(1e-9, 1e-7), R2=between(10, 300), L2=between(1e-3, 0.1),
                    C2=between(5e-12, 5e-11), k=between(0.05, 0.4), V=between(1e3, 3e4))


def action_of(k):
    def of(**v):
        # The integral of i² of a stable linear circuit: aᵀX + Xa = −eeᵀ.
        a = coupled(**v)
        e = np.zeros((4, 4))
        e[k, k] = 1
        # Scaled, for the states differ by many powers of ten.
        s = np.diag([1 / sqrt(v["L1"]), 1 / sqrt(v["L2"]), 1 / sqrt(v["C1"]), 1 / sqrt(v["C2"])])
        x = linalg.solve_continuous_lyapunov((np.linalg.inv(s) @ a @ s).T, -(s.T @ e @ s))
        y = np.linalg.inv(s) @ np.array([0, 0, v["V"], 0])
        return float(y @ x @ y)
    return of


case("coupled-primary-action", "Lyapunov equation by a general library", 8, pair, action_of(0))
case("coupled-secondary-action", "Lyapunov equation by a general library", 8, pair, action_of(1))


def modes(L1, C1, L2, C2, k):
    M = k * sqrt(L1 * L2)
    w2 = np.sort(np.real(linalg.eigvals(np.diag([1 / C1, 1 / C2]), [[L1, M], [M, L2]])))
    return [sqrt(x) / (2 * pi) for x in w2]


lossless = lambda: {s: v for s, v in pair().items() if s in ("L1", "C1", "L2", "C2", "k")}
case("coupled-low-mode", "generalised eigenvalues by a general library", 8, lossless, lambda **v: modes(**v)[0])
case("coupled-high-mode", "generalised eigenvalues by a general library", 8, lossless, lambda **v: modes(**v)[1])

# ---- tanks ----------------------------------------------------------------------------------------------------------


def tank_row(Vs, R, L, Ct, td, Vb):
    """Break after break from rest, each charge integrated, until the row repeats itself."""
    if 1.9 * Vs < Vb:
        return None
    i, last = 0.0, None
    for _ in range(3000):
        f = lambda t, y: [(Vs - R * y[0] - y[1]) / L, y[0] / Ct, y[0]]
        hit = until(f, [i, 0.0, 0.0], 40 * max(sqrt(L * Ct), R * Ct), lambda t, y: y[1] - Vb, atol=1e-12)
        if hit is None:
            return None
        t, (i1, _, _) = hit
        i = Vs / R + (i1 - Vs / R) * np.exp(-R * td / L)
        if last is not None and abs(i - last) < 1e-10 * abs(i):
            return 1 / (t + td), i1, i
        last = i
    return None


tank = lambda: dict(Vs=between(5e3, 2e4), R=between(2e3, 5e4), L=between(5, 200), Ct=between(2e-9, 5e-8), td=between(1e-6, 1e-4), Vb=between(4e3, 2e4))
for k, name in enumerate(["tank-break-rate", "tank-break-current", "tank-left-current"]):
    case(name, ODE + ", break after break until the row repeats", 3, tank, (lambda k: lambda **v: (lambda s: s and s[k])(tank_row(**v)))(k))

# ---- odds and ends --------------------------------------------------------------------------------------------------

case("converter-input-current", ROOT, 8, lambda: dict(P=between(1, 50), eta=between(0.4, 0.95), E=between(9, 24), Ri=between(0.05, 0.5)),
     lambda P, eta, E, Ri: optimize.brentq(lambda i: (E - i * Ri) * i * eta - P, 0, E / 2 / Ri, xtol=1e-300, rtol=1e-14) if E * E / 4 / Ri * eta > 1.05 * P else None)
case("multiplier-energy", "the capacitors added up", 8, lambda: dict(n=whole(1, 12), Vp=between(100, 5e4), C=between(1e-10, 1e-7)),
     lambda n, Vp, C: sum(0.5 * C * (Vp if k == 0 else 2 * Vp) ** 2 for k in range(2 * n)))
case("rise-time-of-bandwidth", "step response of one pole", 4, lambda: dict(B=between(1e3, 1e9)), lambda B: (log(0.9) - log(0.1)) / (2 * pi * B))
case("voltage-life", ROOT, 8, lambda: dict(Vr=between(100, 1e5), Nr=between(1e3, 1e6), N=between(1e2, 1e7), n=between(4, 15)),
     lambda Vr, Nr, N, n: optimize.brentq(lambda v: n * log(v / Vr) + log(N / Nr), Vr * 1e-4, Vr * 1e4, xtol=1e-300, rtol=1e-14))
case("foil-resistance", QUAD, 8, lambda: dict(rho=between(1e-8, 1e-6), l=between(0.05, 5), w=between(0.01, 1), t=between(5e-6, 1e-4)),
     lambda rho, l, w, t: 2 * integrate.quad(lambda x: (x / l) ** 2 * rho / (w * t), 0, l)[0])
case("layer-wire", QUAD, 8, lambda: dict(D=between(0.02, 0.5), N=whole(5, 1500), l=between(0.02, 2)),
     lambda D, N, l: integrate.quad(lambda a: sqrt((D / 2) ** 2 + (l / (2 * pi * N)) ** 2), 0, 2 * pi * N, limit=400)[0])

# ---- transformers and doublers --------------------------------------------------------------------------------------


def doubled(Vp, R, X, f, Cd, Rc, V):
    """Mean current of a doubler into a store that stands: stepped finely until the cycle repeats."""
    if V > 1.6 * Vp:
        return None
    L, n = X / (2 * pi * f), 4000
    h = 1 / f / n
    u1 = u2 = 0.5 * V
    i, before = 0.0, None
    sine = Vp * np.sin(2 * pi * (np.arange(n) + 0.5) / n)
    for _ in range(4000):
        total = 0.0
        for e in sine:
            # The winding charges one capacitor or the other, or none; both in series feed the store behind their resistance.
            out = max(0.0, (u1 + u2 - V) / Rc)
            if i > 0 or (i == 0 and e > u1):
                i = max(0.0, i + h * (e - u1 - R * i) / L)
            elif i < 0 or e < -u2:
                i = min(0.0, i + h * (e + u2 - R * i) / L)
            u1 += h * ((i if i > 0 else 0.0) - out) / Cd
            u2 += h * ((-i if i < 0 else 0.0) - out) / Cd
            total += out / n
        if before is not None and abs(total - before) < 1e-7 * abs(total) + 1e-12:
            return total
        before = total
    return None


case("doubler-current", "stepped in 4000 parts of a cycle until it repeats", 4,
     lambda: dict(Vp=3000.0, R=between(50, 300), X=between(200, 1500), f=50.0, Cd=between(5e-7, 5e-6), Rc=between(5e4, 3e5), V=between(500, 4000)), doubled)
case("leakage-inductance", ROOT, 8, lambda: dict(V=between(100, 1e4), I=between(0.1, 10), R=between(1, 50), f=between(40, 70)),
     lambda V, I, R, f: optimize.brentq(lambda L: abs(R + 2j * pi * f * L) - V / I, 0, 1e4, xtol=1e-300, rtol=1e-14) if V / I > 1.05 * R else None)
case("impedance-current", "complex impedance", 6, lambda: dict(V=between(10, 1e4), R=between(1, 1e3), X=between(1, 1e3)), lambda V, R, X: abs(V / (R + 1j * X)))
case("limited-peak", "complex impedance", 6, lambda: dict(Vp=between(10, 1e4), R=between(1, 1e3), X=between(1, 1e3)), lambda Vp, R, X: abs(Vp / (R + 1j * X)))
case("ac-reach", "complex impedance", 8, lambda: dict(Vp=between(100, 1e4), R=between(10, 1e4), L=between(1, 500), C=between(1e-9, 1e-7), f=between(40, 70)),
     lambda Vp, R, L, C, f: (lambda w: abs(Vp / (1j * w * C) / (R + 1j * w * L + 1 / (1j * w * C))))(2 * pi * f))
case("current-limited-reach", ROOT, 8, lambda: dict(I=between(1e-3, 1), R=between(10, 1e4), Vs=between(100, 1e4), Rb=between(1e3, 1e7)),
     lambda I, R, Vs, Rb: optimize.brentq(lambda v: limited(I, R, Vs)(v) - v / Rb, 0, Vs, xtol=1e-300, rtol=1e-14))
case("power-limited-reach", ROOT, 8, lambda: dict(P=between(1, 200), I=between(1e-3, 1), R=between(10, 1e4), Vs=between(100, 1e4), Rb=between(1e3, 1e7)),
     lambda P, I, R, Vs, Rb: optimize.brentq(lambda v: power(P, I, R, Vs)(v) - v / Rb, 1e-9, Vs, xtol=1e-300, rtol=1e-14))
case("power-limited-current", ROOT, 8, lambda: dict(P=between(1, 200), I=between(1e-3, 1), R=between(10, 1e4), Vs=between(100, 1e4), V=between(10, 1e4)),
     lambda P, I, R, Vs, V: None if V >= 0.95 * Vs else min(I, (Vs - V) / R, optimize.brentq(lambda i: i * (V + i * R) - P, 0, P / V, xtol=1e-300, rtol=1e-14)))

# ---- losses, heat, shares -------------------------------------------------------------------------------------------


def half_action(C, V, k, R):
    zeta = -log(k) / sqrt(pi**2 + log(k) ** 2)
    L = C * (R / (2 * zeta)) ** 2
    return shot(R, L, C)["a"] * V**2 * C / L * sqrt(L * C)


case("action-integral-half-cycle", ODE, 6, lambda: dict(C=between(1e-6, 1e-2), V=between(10, 1e4), k=between(0.05, 0.95), R=between(1e-3, 1)), half_action)


def with_freewheel(C, V, L, I, R, Rw):
    """The loop to the zero of its store's voltage, then the field alone through Rw; I is what flows there."""
    z = R / 2 * sqrt(C / L)
    _, y = until(lambda t, y: [-y[1], y[0] - 2 * z * y[1], y[1] ** 2], [1.0, 0.0, 0.0], 60, lambda t, y: y[0])
    after = run(lambda t, y: [-Rw / L * y[0], y[0] ** 2], [y[1] * V * sqrt(C / L), 0.0], 40 * L / Rw).y[1, -1]
    return y[2] * V**2 * C / L * sqrt(L * C) + after


def freewheeled():
    v = withv()
    for _ in range(1000):
        i = freewheel(**v)
        if i is not None and 0.02 < v["R"] / 2 * sqrt(v["C"] / v["L"]) < 0.9:
            return dict(C=v["C"], V=v["V"], L=v["L"], I=i, R=v["R"], Rw=v["R"] * 0.6)
        v = withv()


case("action-integral-freewheel", ODE, 6, freewheeled, with_freewheel)
case("ladder-bleed-time", "eigenvalues of the ladder's matrix, " + ROOT, 8,
     lambda: dict(n=whole(1, 20), R=between(1e3, 1e6), C=between(1e-10, 1e-6), Rb=between(1e4, 1e8), V0=between(1e3, 1e5), V=between(10, 900)),
     lambda n, R, C, Rb, V0, V: ladder_time(n, R, C, 1 - V / V0, Rb))


def lag(n, R, C):
    # A constant current charges all alike once its beginning has died out: how much later than the mean the last one comes.
    a = ladder_matrix(n, R, C, 0)
    a[0, 0] -= 1 / (R * C)
    drive = np.zeros(n)
    drive[0] = 1.0
    # v = slope·t + shape: a·shape = drive·I − C·slope, with the mean of the shape nought.
    shape = np.linalg.lstsq(np.vstack([a * C, np.ones(n)]), np.append(drive - 1 / n, 0.0), rcond=None)[0]
    return float(-shape[-1] * n * C)


case("ladder-lag", "steady shape of the ladder under a constant current", 8, lambda: dict(n=whole(2, 30), R=between(1e3, 1e6), C=between(1e-10, 1e-6)), lag)


def output(n, V, C, CL, Cs):
    """Charge shared between n stages in series with a stray at each joint and the load; strays of an evenly rising column."""
    # Energy of a column whose voltage rises evenly: Σ ½·Cs·(k/n)²·V² over many short pieces is ½·(n·Cs/3)·V².
    stray = integrate.quad(lambda x: n * Cs * x * x, 0, 1)[0]
    return n * V * (1 / (CL + stray)) / (1 / (CL + stray) + n / C)


case("marx-output-voltage", QUAD + ", charge shared", 8, lambda: dict(n=whole(1, 30), V=between(1e3, 1e5), C=between(1e-10, 1e-7), CL=between(1e-12, 1e-9), Cs=between(1e-13, 1e-11)), output)
case("transfer-efficiency", ODE, 6, lambda: dict(C1=between(1e-9, 1e-6), C2=between(1e-9, 1e-6), k=between(0.05, 0.95)),
     lambda C1, C2, k: C2 * transfer_peak(1.0, C1, C2, k) ** 2 / C1)
case("ringing-gain", ODE, 6, lambda: dict(C1=between(1e-9, 1e-6), C2=between(1e-9, 1e-6), k=between(0.05, 0.95)), lambda C1, C2, k: transfer_peak(1.0, C1, C2, k))
case("differentiator-width", ODE, 6, lambda: dict(R=between(1, 1e4), C=between(1e-9, 1e-6), V=between(10, 100), Vg=between(0.5, 8)),
     lambda R, C, V, Vg: R * C * until(lambda t, y: -y, [V], 40, lambda t, y: y[0] - Vg)[0])
case("lamp-out-voltage", "the branch worked from its last element outwards", 6,
     lambda: dict(Rs=between(500, 1e4), Rp=between(1e3, 1e6), Rl=between(100, 2000), Vf=2.0, Il=between(1e-4, 1e-3)),
     lambda Rs, Rp, Rl, Vf, Il: float(np.linalg.solve([[1, 0, 0], [-1 / Rp, 1, 0], [-1, -Rs, 1]], [Vf + Il * Rl, Il, 0])[2]))
case("column-resistance", QUAD, 6, lambda: dict(rho=between(0.01, 1), h=between(0.05, 0.5), d=between(0.01, 0.2)),
     lambda rho, h, d: integrate.quad(lambda x: (x / h) ** 2 * rho / (pi * d * d / 4), 0, h)[0])
case("bottle-capacitance", QUAD, 6, lambda: dict(er=between(2, 8), h=between(0.05, 0.3), d=between(0.04, 0.15), t=between(1e-3, 4e-3), tb=between(1e-3, 6e-3)),
     lambda er, h, d, t, tb: 1 / integrate.quad(lambda r: 1 / (2 * pi * EPS0 * er * r * h), d / 2, d / 2 + t)[0] + EPS0 * er * pi * (d / 2) ** 2 / tb)
case("sphere-capacitance", QUAD, 4, lambda: dict(r=between(0.001, 1)), lambda r: 1 / integrate.quad(lambda u: 1 / (4 * pi * EPS0 * r), 0, 1)[0])
case("skin-depth", "where a diffusing field has fallen to 1/e", 6, lambda: dict(f=between(50, 1e8), rho=between(1e-8, 1e-6)),
     lambda f, rho: 1 / np.real(np.sqrt(2j * pi * f * MU0 / rho)))
case("self-resonance", ROOT, 6, lambda: dict(L=between(1e-6, 1e-1), C=between(1e-12, 1e-9)),
     lambda L, C: optimize.brentq(lambda w: w * L - 1 / (w * C), 1, 1e13, xtol=1e-300, rtol=1e-14) / (2 * pi))
case("magnetic-pressure", "energy of a field", 4, lambda: dict(B=between(0.01, 100)), lambda B: integrate.quad(lambda b: b / MU0, 0, B)[0])
case("steady-heating", "heat balance", 4, lambda: dict(E=between(1, 1e4), f=between(1e-3, 10), h=10.0, S=between(1e-3, 1)), lambda E, f, h, S: E * f / h / S)
case("spiral-wire", QUAD, 6, lambda: dict(r0=between(0.05, 0.3), p=between(0.005, 0.03), a=between(0.05, 1), n=whole(2, 15)),
     lambda r0, p, a, n: integrate.quad(lambda u: 2 * pi * (r0 + u * p * sqrt(1 - a * a)), 0, n)[0])


def coil_on_layer(r0, p, a, n, h, D2, l2, N):
    k = np.arange(n)
    r, z = r0 + (k + 0.5) * p * sqrt(1 - a * a), (k + 0.5) * p * a
    if min(r) < 1.1 * D2 / 2:
        return None
    x, w = np.polynomial.legendre.leggauss(400)
    at = h + l2 * (x + 1) / 2
    return float(sum(N / 2 * w[m] * loops(r[j], D2 / 2, at[m] - z[j]) for j in range(n) for m in range(400)))


case("spiral-mutual", ELLIPTIC + ", every turn with 400 loops of the layer", 5,
     lambda: dict(r0=between(0.05, 0.3), p=between(0.005, 0.03), a=between(0.05, 1), n=whole(2, 12), h=between(0.001, 0.05), D2=between(0.04, 0.3), l2=between(0.1, 0.8), N=whole(100, 1200)), coil_on_layer)


def rise(Vp, R, L, C, f, V):
    if V > 0.7 * Vp:
        return None
    w = 2 * pi * f
    hit = until(lambda t, y: [(Vp * np.sin(w * t) - R * y[0] - y[1]) / L, y[0] / C, R * y[0] ** 2], [0.0, 0.0, 0.0], 5 / f, lambda t, y: abs(y[1]) - V, atol=1e-12)
    return hit


acs = lambda: dict(Vp=between(5e3, 2e4), R=between(100, 1e4), L=between(10, 500), C=between(2e-9, 2e-8), f=between(45, 65), V=between(1e3, 1e4))
case("tank-ac-rise", ODE, 4, acs, lambda **v: (lambda s: s and s[0])(rise(**v)))
case("tank-ac-rise-loss", ODE, 4, acs, lambda **v: (lambda s: s and s[1][2])(rise(**v)))


def rotary(Vs, R, L, Ct, td, n):
    """Broken at fixed times, whatever it stands at: its row as the fixed point of a linear map."""
    T = 1 / n - td
    if T < 5e-5:
        return None
    a = np.array([[-R / L, -1 / L, Vs / L], [1 / Ct, 0, 0], [0, 0, 0]])
    m = linalg.expm(a * T)
    fall = np.exp(-R * td / L)
    # From i and 0 V: i1 = m00·i + m02, then i = Vs/R + (i1 − Vs/R)·fall.
    i = (Vs / R * (1 - fall) + m[0, 2] * fall) / (1 - m[0, 0] * fall)
    i1 = m[0, 0] * i + m[0, 2]
    return m[1, 0] * i + m[1, 2], i1, i


turned = lambda: dict(Vs=between(5e3, 2e4), R=between(2e3, 5e4), L=between(5, 200), Ct=between(2e-9, 5e-8), td=between(1e-6, 1e-4), n=between(100, 600))
for k, name in enumerate(["tank-rotary-break-voltage", "tank-rotary-break-current", "tank-rotary-left-current"]):
    case(name, "fixed point of the exponential of a matrix", 5, turned, (lambda k: lambda **v: (lambda s: s and float(s[k]) if s and s[0] > 0 and s[2] > 0 else None)(rotary(**v)))(k))


def first_swing(what):
    def of(**v):
        a = coupled(**v)
        fl, _ = modes(v["L1"], v["C1"], v["L2"], v["C2"], v["k"])
        t = np.linspace(0, 60 / fl, 60 * 400)
        step = linalg.expm(a * (t[1] - t[0]))
        y = np.array([0, 0, v["V"], 0])
        best = 0.0
        for _ in t:
            best = max(best, abs(y[what]))
            y = step @ y
        return float(best)
    return of


case("coupled-primary-current", "exponential of the matrix, 400 steps of each of 60 periods", 5, pair, first_swing(0))
case("coupled-secondary-current", "exponential of the matrix, 400 steps of each of 60 periods", 5, pair, first_swing(1))

text = json.dumps(rows, indent=None, separators=(",", ":")).replace("},{", "},\n{") + "\n"
if "--print" in sys.argv:
    print(text, end="")
else:
    (Path(__file__).parent.parent / "fixtures" / "independent.json").write_text(text)
    print(f"{len(rows)} points of {len({r['formula'] for r in rows})} formulas", file=sys.stderr)
