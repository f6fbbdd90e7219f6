"""The rules and the computation of refrigerant charging: one function of a job document.

What is named here is the public surface, described with worked examples in `docs/core.md`; everything else may move.
Each name is loaded when it is first asked for, so that importing the package costs nothing.
"""

from importlib import import_module
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from yoshi_core.charge.total import Adjustment as Adjustment
    from yoshi_core.charge.total import LineRun as LineRun
    from yoshi_core.charge.total import Nameplate as Nameplate
    from yoshi_core.charge.total import total_charge as total_charge
    from yoshi_core.charge.weigh_in import Source as Source
    from yoshi_core.charge.weigh_in import plan as plan
    from yoshi_core.document.model import Job as Job
    from yoshi_core.job.documents import dump as dump
    from yoshi_core.job.documents import load as load
    from yoshi_core.job.evaluate import Findings as Findings
    from yoshi_core.job.evaluate import evaluate as evaluate
    from yoshi_core.leaks.rate import Addition as Addition
    from yoshi_core.leaks.rate import as_refrigerant as leak_as_refrigerant
    from yoshi_core.leaks.rate import rolling_share as rolling_leak_share
    from yoshi_core.profile.profile import Profile as Profile
    from yoshi_core.properties.cycle import Conditions as Conditions
    from yoshi_core.properties.saturation import bubble_pressure_pa as bubble_pressure_pa
    from yoshi_core.properties.saturation import bubble_temperature_k as bubble_temperature_k
    from yoshi_core.properties.saturation import dew_pressure_pa as dew_pressure_pa
    from yoshi_core.properties.saturation import dew_temperature_k as dew_temperature_k
    from yoshi_core.properties.vapor import density_kg_m3 as vapor_density_kg_m3
    from yoshi_core.properties.vapor import enthalpy_j_kg as vapor_enthalpy_j_kg
    from yoshi_core.retrofit.candidates import Present as Present
    from yoshi_core.retrofit.candidates import compare as compare_refrigerants
    from yoshi_core.rig.design import Plate as RigPlate
    from yoshi_core.rig.design import design as design_unit
    from yoshi_core.rig.solve import solve as solve_unit
    from yoshi_core.rig.unit import Faults as Faults
    from yoshi_core.rig.unit import Weather as Weather
    from yoshi_core.running.trim import Answered as Answered
    from yoshi_core.running.trim import Gaps as Gaps
    from yoshi_core.running.trim import next_step as next_trim_step
    from yoshi_core.tight_and_dry.decay import Noise as Noise
    from yoshi_core.tight_and_dry.evacuation import Limits as DecayLimits
    from yoshi_core.tight_and_dry.evacuation import judge as judge_decay
    from yoshi_core.tight_and_dry.pressure_hold import HoldSample as HoldSample
    from yoshi_core.tight_and_dry.pressure_hold import HoldTerms as HoldTerms
    from yoshi_core.tight_and_dry.pressure_hold import judge as judge_hold
    from yoshi_core.units.display import show as show
    from yoshi_core.units.text import parse as parse

__version__ = "0.10.0"

_PUBLIC = {
    "Addition": "leaks.rate:Addition",
    "Adjustment": "charge.total:Adjustment",
    "Answered": "running.trim:Answered",
    "Conditions": "properties.cycle:Conditions",
    "DecayLimits": "tight_and_dry.evacuation:Limits",
    "Faults": "rig.unit:Faults",
    "Findings": "job.evaluate:Findings",
    "Gaps": "running.trim:Gaps",
    "HoldSample": "tight_and_dry.pressure_hold:HoldSample",
    "HoldTerms": "tight_and_dry.pressure_hold:HoldTerms",
    "Job": "document.model:Job",
    "LineRun": "charge.total:LineRun",
    "Nameplate": "charge.total:Nameplate",
    "Noise": "tight_and_dry.decay:Noise",
    "Present": "retrofit.candidates:Present",
    "Profile": "profile.profile:Profile",
    "RigPlate": "rig.design:Plate",
    "Source": "charge.weigh_in:Source",
    "Weather": "rig.unit:Weather",
    "bubble_pressure_pa": "properties.saturation:bubble_pressure_pa",
    "bubble_temperature_k": "properties.saturation:bubble_temperature_k",
    "compare_refrigerants": "retrofit.candidates:compare",
    "design_unit": "rig.design:design",
    "dew_pressure_pa": "properties.saturation:dew_pressure_pa",
    "dew_temperature_k": "properties.saturation:dew_temperature_k",
    "dump": "job.documents:dump",
    "evaluate": "job.evaluate:evaluate",
    "judge_decay": "tight_and_dry.evacuation:judge",
    "judge_hold": "tight_and_dry.pressure_hold:judge",
    "leak_as_refrigerant": "leaks.rate:as_refrigerant",
    "load": "job.documents:load",
    "next_trim_step": "running.trim:next_step",
    "parse": "units.text:parse",
    "plan": "charge.weigh_in:plan",
    "rolling_leak_share": "leaks.rate:rolling_share",
    "show": "units.display:show",
    "solve_unit": "rig.solve:solve",
    "total_charge": "charge.total:total_charge",
    "vapor_density_kg_m3": "properties.vapor:density_kg_m3",
    "vapor_enthalpy_j_kg": "properties.vapor:enthalpy_j_kg",
}
__all__ = tuple(_PUBLIC)


def __getattr__(name: str) -> Any:
    """A public name, loaded now and kept; `AttributeError` for any other."""
    place = _PUBLIC.get(name)
    if place is None:
        raise AttributeError(f"yoshi_core has no public {name!r}")
    module, _, attribute = place.partition(":")
    found = getattr(import_module(f"yoshi_core.{module}"), attribute)
    globals()[name] = found
    return found


def __dir__() -> list[str]:
    return sorted({*globals(), *_PUBLIC})
