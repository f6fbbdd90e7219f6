"""What the usual jobs cost in presses and fields, on a phone, every claim shown and each figure said how it is known."""

from datetime import UTC, datetime, timedelta
from typing import Any

from playwright.sync_api import Page, expect

from e2e.device import set_by_hand, set_the_clock
from e2e.effort import Hand, shown

PHONE = {"width": 390, "height": 844}


def within(hand: Hand, counted: Any, taps: int, fields: int) -> None:
    """Print what it took, and hold it to that."""
    counted("effort", hand.said())
    assert hand.taps <= taps
    assert hand.fields <= fields
    everything_said(hand.page)


def everything_said(page: Page) -> None:
    """How each figure is known stands beside it: none waits to be said."""
    document = page.request.get(f"/api/jobs/{page.url.split('/job/')[1].split('/')[0]}/document").json()
    known = {"factory_charge", "included_length", "length", "tare", "inside", "volume", "water_capacity", "pressure"}
    unsaid = [path for path, entry in entries(document["job"]) if path.rsplit("/", 1)[-1] in known and entry.get("source") == "typed"]
    assert unsaid == []


def entries(value: Any, path: str = "") -> Any:
    """Every typed figure below a value, by its path."""
    if isinstance(value, dict) and "text" in value and "value" in value:
        yield path, value
    elif isinstance(value, dict):
        for key, below in value.items():
            yield from entries(below, f"{path}/{key}")
    elif isinstance(value, list):
        for number, below in enumerate(value):
            yield from entries(below, f"{path}/{number}")


def begin(hand: Hand, kind: str) -> None:
    hand.button("New job")
    hand.button(kind)
    hand.page.get_by_role("heading", name="Identify").wait_for()


def plate(hand: Hand, kind: str, metering: str, values: dict[str, str]) -> None:
    hand.choose("kind", kind)
    hand.choose("metering", metering)
    for key, text in values.items():
        hand.put(key, text)


SPLIT = {
    "refrigerant": "R-410A",
    "factory_charge": "9 lb 4 oz",
    "included_length": "25 ft",
    "lines.l1.length": "55 ft",
    "lines.l1.liquid_od": "3/8 in",
}


def test_a_split_to_its_mark(open_page: Any, record_property: Any) -> None:
    hand = Hand(open_page(**PHONE))
    begin(hand, "Charge only: it is empty already")
    plate(hand, "split", "txv", SPLIT)
    hand.choose("pairing_by", "switched")
    hand.on("Weigh in")
    hand.choose("system_state", "empty")
    hand.put("draws.d1.gross_start", "31 lb 6.5 oz")
    hand.put("draws.d1.tare", "9 lb")
    hand.leave()
    expect(hand.page.get_by_test_id("headline")).to_have_text("Close the valve when the scale reads 21 lb 2.9 oz.")
    within(hand, record_property, 12, 7)


def test_a_quick_total_is_the_same_figure_for_the_same_entries(open_page: Any, record_property: Any) -> None:
    hand = Hand(open_page(**PHONE))
    hand.button("Quick total")
    hand.page.get_by_role("heading", name="Quick total").wait_for()
    for key, text in {**SPLIT, "draws.d1.gross_start": "31 lb 6.5 oz", "draws.d1.tare": "9 lb"}.items():
        hand.put(key, text)
    hand.leave()
    expect(hand.page.get_by_test_id("big-weight").last).to_contain_text("21lb2.9oz")
    expect(hand.page.get_by_text("The vapour line is left out")).to_be_visible()
    within(hand, record_property, 10, 7)


def test_a_cabinet_weighed_to_the_gram(open_page: Any, record_property: Any) -> None:
    """150 g of propane into a reach-in: by weight alone, and closed by it."""
    hand = Hand(open_page(**PHONE))
    begin(hand, "Charge only: it is empty already")
    plate(hand, "reach_in", "capillary", {"refrigerant": "R-290", "factory_charge": "150 g"})
    hand.understood()
    hand.yes("listed")
    hand.on("Weigh in")
    hand.mark("identify")
    hand.understood()
    hand.choose("system_state", "empty")
    hand.put("scale_step", "1 g")
    hand.put("draws.d1.cylinder", "22")
    hand.put("draws.d1.gross_start", "2120 g")
    hand.put("draws.d1.tare", "1800 g")
    expect(hand.page.get_by_test_id("headline")).to_contain_text("1970 g")
    hand.put("draws.d1.gross_end", "1970 g")
    shown(hand.page, "Charged right")
    hand.on("Verify")
    hand.mark("weigh in")
    hand.aside("weighed only, it has no port to read")
    hand.page.get_by_role("heading", name="Close out").wait_for()
    hand.mark("verify")
    hand.finish("proven_by_weight")
    within(hand, record_property, 24, 8)


def test_a_fixed_orifice_proven_by_superheat(open_page: Any, record_property: Any) -> None:
    """Weighed in, then read against the target that indoor wet bulb and outdoor air make."""
    hand = Hand(open_page(**PHONE))
    begin(hand, "Charge only: it is empty already")
    plate(hand, "heat_pump", "orifice", {**SPLIT, "factory_charge": "6 lb"})
    hand.choose("pairing_by", "switched")
    hand.on("Weigh in")
    hand.mark("identify")
    hand.understood()
    hand.choose("system_state", "empty")
    hand.put("draws.d1.cylinder", "14")
    hand.put("draws.d1.gross_start", "31 lb 6.5 oz")
    hand.put("draws.d1.tare", "9 lb")
    hand.put("draws.d1.gross_end", hand.close_at())
    shown(hand.page, "Charged right")
    hand.on("Verify")
    hand.mark("weigh in")
    hand.understood()
    hand.choose("mode", "cooling")
    hand.yes("filter_ok", "coils_ok")
    hand.put("run_in", "15 min")
    readings = {
        "suction_pressure": "118",
        "suction_line": "52",
        "liquid_pressure": "335",
        "liquid_line": "93",
        "outdoor": "95",
        "return_wet_bulb": "67",
    }
    for key, text in readings.items():
        hand.put(f"readings.r1.{key}", text)
    shown(hand.page, "Runs right")
    hand.on("Close out")
    hand.mark("verify")
    hand.finish("proven")
    within(hand, record_property, 32, 19)


def test_a_whole_job_of_a_valve(open_page: Any, record_property: Any) -> None:
    """Gauges on, a leak, recovered, mended, held, pulled, weighed in, read, closed: nothing special, and every claim shown."""
    hand = Hand(open_page(**PHONE))
    page = hand.page
    begun = datetime.now(UTC) - timedelta(hours=9)
    set_by_hand(page)

    def at(minutes: float) -> None:
        set_the_clock(page, begun + timedelta(minutes=minutes))

    at(0)
    begin(hand, "Whole job: gauges on first")
    plate(hand, "split", "txv", SPLIT)
    hand.choose("pairing_by", "switched")
    hand.on("As found")
    hand.mark("identify")
    hand.put("standing_pressure", "209 psig")
    hand.put("standing_cold", "72 °F")
    hand.choose("running", "settled")
    hand.choose("mode", "cooling")
    hand.put("run_time", "18 min")
    for key, text in {
        "suction_pressure": "101",
        "suction_line": "62",
        "liquid_pressure": "316",
        "liquid_line": "97",
        "outdoor": "88",
    }.items():
        hand.put(key, text)
    hand.on("Leak search")
    hand.mark("as found")
    hand.choose("inside", "refrigerant")
    hand.button("Leak here")
    expect(page.get_by_test_id("headline")).to_contain_text("A second method decides")
    hand.button("Leak here")
    expect(page.get_by_test_id("headline")).to_contain_text("Leak found:")
    hand.on("Recover")
    hand.mark("leak search")
    hand.understood()
    hand.choose("way", "cylinder")
    hand.book("R4")
    hand.put("cylinders.c1.gross_start", "27 lb 2 oz")
    hand.yes("fan_on", "valves_open")
    hand.put("cylinders.c1.gross_now", "35 lb 4 oz")
    hand.yes("finished")
    for key, text in {"end_pressure": "0 psig", "waited": "6 min", "risen_to": "0.5 psig"}.items():
        hand.put(key, text)
    hand.choose("use", "new")
    shown(page, "Emptied")
    hand.on("Repair")
    hand.mark("recover")
    hand.understood()
    hand.choose("joining", "brazed")
    hand.put("opened_for", "30 min")
    hand.yes("at_zero", "both_open", "fire_watch", "nitrogen_flow")
    hand.choose("drier", "new")
    hand.yes("drier_way", "drier_size", "cores")
    hand.choose("bulb", "placed")
    hand.on("Pressure hold")
    hand.mark("repair")
    at(90)
    hand.understood()
    hand.put("stamps.s1.label", "coil")
    hand.put("stamps.s1.pressure", "450 psig")
    hand.put("test_pressure", "400 psig")
    hand.choose("gas", "nitrogen")
    hand.choose("fed", "both")
    hand.choose("metal_by", "none")
    hand.yes("regulator")
    hand.button("Shut now")
    hand.choose("bubbles", "clean")
    for minutes in (106.0, 130.0):
        at(minutes)
        hand.reading("gauge", "400")
    at(131)
    shown(page, "Tight")
    hand.on("Evacuate")
    hand.mark("pressure hold")
    hand.understood()
    hand.choose("method", "single")
    hand.choose("place", "far")
    hand.yes("energized", "valves_open", "cores_out", "oil_fresh")
    hand.button("Pump is on")
    at(172)
    hand.button("Shut off now")
    hand.reading("gauge", "300")
    at(182)
    hand.reading("gauge", "340")
    shown(page, "Dry")
    hand.on("Weigh in")
    hand.mark("evacuate")
    at(190)
    hand.understood()
    hand.choose("system_state", "empty")
    hand.put("draws.d1.cylinder", "14")
    hand.put("draws.d1.gross_start", "31 lb 6.5 oz")
    hand.put("draws.d1.tare", "9 lb")
    hand.put("draws.d1.gross_end", hand.close_at())
    shown(page, "Charged right")
    hand.on("Verify")
    hand.mark("weigh in")
    hand.understood()
    hand.choose("mode", "cooling")
    hand.put("run_in", "15 min")
    hand.yes("filter_ok", "coils_ok")
    readings = {"suction_pressure": "128", "suction_line": "54", "liquid_pressure": "372", "liquid_line": "104", "outdoor": "88"}
    for key, text in readings.items():
        hand.put(f"readings.r1.{key}", text)
    shown(page, "Runs right")
    hand.on("Close out")
    hand.mark("verify")
    hand.finish("proven")
    within(hand, record_property, 90, 55)
