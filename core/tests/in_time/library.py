"""The same right-hand side by a library's integrators: flows and mixed air worked out at every temperature."""

import numpy as np
from scipy.integrate import solve_ivp

from krill.prediction.answer.capacities import node_capacities


def by_library(network, T0, until, times, method="BDF", shares=lambda t: {}, kinks=(), rtol=1e-7, atol=1e-6):
    """Temperatures (time, node) at times, and the nodes that have a capacity."""
    heat, C = network.pattern.network, node_capacities(network)
    free = np.setdiff1d(np.arange(len(heat.names)), heat.held)
    speeds = network.states.speeds(T0, network.structure, None)
    mixed = np.setdiff1d(heat.held, heat.given)
    last, air = [None], T0[:, mixed].copy()

    def at(t, y):
        T = T0.copy()
        T[0, free] = y
        told = {source: np.full(1, share) for source, share in shares(t).items()}
        for _ in range(4 if mixed.size else 1):
            T[:, mixed] = air
            last[0] = network.frozen(T, speeds, told, last[0])
            r, J = heat.residual(T, last[0].matrix, last[0].power, last[0].laws)
            air[:] += r[:, mixed]
        return r[0, free] / C[0, free], heat.dense(J)[0][np.ix_(free, free)] / C[0, free][:, None]

    found = np.repeat(T0, len(times), axis=0)
    y, begins = T0[0, free], 0.0
    for ends in [*(kink for kink in kinks if kink < until), until]:
        mine = (times >= begins) & (times <= ends)
        out = solve_ivp(
            lambda t, y: at(t, y)[0],
            (begins, ends),
            y,
            method=method,
            t_eval=np.append(times[mine], ends) if not mine.any() or times[mine][-1] < ends else times[mine],
            jac=lambda t, y: at(t, y)[1],
            rtol=rtol,
            atol=atol,
        )
        found[np.ix_(mine, free)] = out.y.T[: mine.sum()]
        y, begins = out.y[:, -1], ends
    return found, free
