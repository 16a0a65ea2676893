"""The critic: reads a finished plan as a master would, and knows nothing of how it was made."""

from holoptic.plan.critic.judge import criticise
from holoptic.plan.critic.remarks import RULES, Remark, counts
from holoptic.plan.critic.sitting import Sitting

__all__ = ["RULES", "Remark", "Sitting", "counts", "criticise"]
