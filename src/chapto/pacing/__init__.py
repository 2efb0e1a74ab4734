"""Voice and picture of one exchange, fitted to each other.

1. *Stops* (`fitted.Stop`): the tied words of a beat, each with the mat time of its moment.
2. *Intervals* (`solver_input`): between two stops lie so many seconds of mat time and so many of voice; at each
   stop the picture may stand.
3. *Solver* (`solver`, `milp_model`): chooses rate, hold, pause and skip for every interval at the least cost, by the
   weights and limits of the house style (`styles`).
4. *Timeline* (`exchange_timeline`, `playback_plan`): carries the choice out in exact numbers.

`fit.fit` does all of it. Beats with a treatment of the creator's move the picture by `motions`; what can't be met
becomes a sentence of `shortfalls`. Nothing here reads a disk.
"""
