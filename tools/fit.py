"""`make fit`, `make folds`: fit the pace model to stated facts and second opinions.

It says of each what is predicted. `--write` writes the fit to the model's files; `--folds` fits
again with each opinion left out once, which takes minutes. Exit 1 where a fact does not hold.
"""

from __future__ import annotations

import sys
from pathlib import Path

from calibration import fit as calibration

CORE = Path(__file__).resolve().parent.parent / "pine_ladder" / "core"
MOVED_TOLD = 20


def tell(fit: calibration.Fit) -> None:
    """Print facts, opinions and what moved, with what is predicted."""
    for fact in fit.facts:
        mark = "holds" if fact.holds else "FAILS"
        stated = f"{fact.fact.low:g} to {fact.fact.high:g}"
        says = fact.fact.says + (f" ({fact.fact.source})" if fact.fact.source else "")
        print(f"{mark}  {stated:>12}  predicted {fact.predicted:7.2f}  {says}")
    print("second opinions, from memory: 10 %, middle and 90 % expected, and predicted:")
    for one in fit.opinions:
        both = " ".join(f"{v:8g}" for v in (*one.expected, *one.predicted))
        print(f"  {one.name:18} tier {one.tier} {both}  {one.error:+.2f}")
    print("moved furthest, in widths of what was believed before:")
    for moved in fit.moved[:MOVED_TOLD]:
        why = f"  because of: {'; '.join(moved.because)}" if moved.because else ""
        both = f"{moved.start:8.3f} {moved.value:8.3f}"
        print(f"  {moved.name:32} {both} {moved.widths:+.1f}{why}")
    print("left out of the fit, predicted by their neighbours alone:")
    for left in fit.left_out:
        error = left.predicted / left.seconds - 1
        both = f"{left.seconds:5.2f} s  {left.predicted:5.2f} s"
        print(f"  {left.name:20} {both} {error:+.0%}")


def main() -> int:
    """Fit, print and, where asked, write."""
    fit = calibration.fit_library()
    if "--write" in sys.argv:
        (CORE / "pace" / "data" / "constants.toml").write_text(calibration.constants_toml(fit))
        (CORE / "movements" / "fitted.toml").write_text(calibration.movements_toml(fit))
    tell(fit)
    if "--folds" in sys.argv:
        fold = calibration.folds()
        print(f"left out in turn: error inside {fold.inside:.3f}, outside {fold.outside:.3f}")
    return 0 if all(one.holds for one in fit.facts) else 1


if __name__ == "__main__":
    sys.exit(main())
