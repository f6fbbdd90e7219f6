"""What the job can say, in the printed record: each claim with its standing, its sentence, and whose word stands in for what was not shown."""

from yoshi_core.findings.claims import STANDINGS, Claim
from yoshi_core.job.evaluate import Findings
from yoshi_core.units.display import System


def claims(findings: Findings, system: System) -> list[dict[str, str]]:
    """The seven claims in their order."""
    return [
        {"label": c.label, "standing": STANDINGS[c.standing], "words": c.words.show(system), "answers": answers(c)} for c in findings.claims
    ]


def answers(claim: Claim) -> str:
    """Who answers for what was not shown, or closed over what was found; empty where nobody had to."""
    if not claim.by:
        return ""
    how = "answers for it" if claim.standing == "answered_for" else "closed it all the same"
    return f"{claim.by} {how}: {claim.reason}"
