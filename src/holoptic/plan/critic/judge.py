"""All rules put to a plan, one after the other."""

from __future__ import annotations

from holoptic.plan.critic.contents import judge_contents
from holoptic.plan.critic.distances import judge_distances
from holoptic.plan.critic.length import judge_centres, judge_length
from holoptic.plan.critic.remarks import RULES, Remark
from holoptic.plan.critic.rounds import judge_rounds
from holoptic.plan.critic.sentences import judge_sentences
from holoptic.plan.critic.sequence import judge_sequence
from holoptic.plan.critic.sitting import Sitting
from holoptic.plan.critic.thrift import judge_thrift

_JUDGES = (
    judge_sentences, judge_distances, judge_sequence, judge_contents, judge_rounds,
    judge_centres, judge_thrift, judge_length,
)  # fmt: skip


def criticise(sitting: Sitting) -> list[Remark]:
    """Return all that is wrong with a plan, rule by rule, each in the order of the moves.

    Raises DraftingError where the moves cannot even be carried out.
    """
    order = list(RULES)
    found = [remark for judge in _JUDGES for remark in judge(sitting)]
    return sorted(found, key=lambda remark: (order.index(remark.rule), remark.move))
