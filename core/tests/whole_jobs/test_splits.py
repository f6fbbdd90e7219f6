"""Splits and ductless units, with lines between two halves."""

from tests.whole_jobs.day import READY, RECOVER, REPAIR, SITE, Day, clock, draw, ended, hold, out, pulled
from yoshi_core.units.quantities import OZ_KG

PAIRED = {"pairing_proven": True, "pairing_by": "switched"}


def test_18_bookbinders_ductless() -> None:
    """48 oz on record with 75 ft; twelve of fifteen minutes end no worse than no hold at all."""
    plate = {
        **SITE,
        **PAIRED,
        "refrigerant": "R-410A",
        "kind": "ductless",
        "metering": "eev",
        "factory_charge": {"text": "48 oz", "source": "note"},
        "included_length": "75 ft",
        "lines": {"l1": {"length": "75 ft", "allowance": "0 oz/ft"}},
    }
    day = Day("08:00")
    day.type("identify", **plate)
    day.answer("identify")
    day.close("identify")
    day.type("as_found", running="off", standing_pressure="0 psig", standing_cold="75 °F")
    day.close("as_found")
    day.type("leak_search", inside="empty", places={"outdoor_coil": {"reach": "open", "eyes": "hit"}})
    day.close("leak_search", "old coil oily")
    day.leave("recover", "nothing came")
    day.at("09:00").type(
        "repair",
        **{**REPAIR, "drier": "none_by_maker", "bulb": "none", "opened_for": "14 min"},
        parts={"p1": {"label": "outdoor coil", "kind": "coil", "failed_by": "corrosion", "pressurized": True}},
    )
    day.close("repair")
    day.at("09:30").type("pressure_hold", **hold(clock("09:15"), (clock("09:15"), 400), (clock("09:27"), 400), volume="3 L"))
    assert day.word("pressure_hold") == "Wait"
    day.close("pressure_hold", "roof to be cleared", "J. Pell")
    tight = day.claim("tight")
    assert (tight.standing, tight.by, tight.reason) == ("shown", "", "")
    assert "400.0 psig held for 12 min, nothing lost. Clean at every joint made." in tight.words.show()
    readings = ((clock("09:50"), 250), (clock("10:00"), 300))
    day.at("10:00").type("evacuate", **pulled(("pump", clock("09:30")), ("isolated", clock("09:50")), readings=readings), volume="3 L")
    assert day.word("evacuate") == "Holds"
    day.close("evacuate")
    day.at("10:10").type("weigh_in", system_state="empty", draws={"d1": draw("15", "30 lb")})
    assert day.mark() == "27 lb 0.0 oz"
    day.type("weigh_in", draws={"d1": {"gross_end": "27 lb"}})
    assert day.inside.startswith("3 lb 0.0 oz")
    day.close("weigh_in")
    day.at("10:30").type(
        "verify", mode="cooling", **READY, readings={"r1": {"suction_pressure": "118 psig", "suction_line": "52 °F", "outdoor": "80 °F"}}
    )
    day.close("verify")
    assert day.claims == "S S S S S S S"
    assert day.close_out("proven_by_weight").startswith("3 lb 0.0 oz")


def test_5_library_hall_a_valve_and_ounces_into_pounds() -> None:
    plate = {
        **SITE,
        **PAIRED,
        "refrigerant": "R-410A",
        "kind": "split",
        "metering": "txv",
        "factory_charge": "201 oz",
        "included_length": "15 ft",
        "subcooling_target": "13.5 °F",
        "lines": {"l1": {"length": "26 ft", "allowance": "0.6 oz/ft"}},
    }
    day = Day("08:00")
    day.type("identify", **plate, factory_charge_other="12 lb 5 oz")
    assert any("Which is right?" in q.message.show() for q in day.found.step("identify").questions)
    day.answer("identify")
    assert abs(day.figure_oz("identify", "total") - 207.6) < 0.05
    day.close("identify")
    day.leave("as_found", "runs, valve stuck")
    day.leave("leak_search", "not asked for")
    day.at("09:30").type("recover", **RECOVER, cylinders={"c1": out("R-1", "27 lb", "39 lb 2 oz")}, **ended(risen="0 psig"))
    assert "13.6 oz of 12 lb 15.6 oz were not there." in day.found.step("recover").verdict.headline.show() or "13.6 oz ±" in day.told(
        "recover", "recover.share"
    )
    day.close("recover", "short, no place found")
    day.at("10:30").type(
        "repair",
        **{**REPAIR, "joining": "flared"},
        parts={"p1": {"label": "expansion valve", "kind": "metering", "failed_by": "contamination"}},
        acid_test=True,
    )
    assert day.claim("mended").awaits == "verify"
    day.close("repair", "one drier is enough, no acid")
    day.close("pressure_hold", "looked good, bubbles clean", "M. Orrin")
    assert day.claim("tight").standing == "answered_for"
    readings = ((clock("11:35"), 698), (clock("12:20"), 576))
    day.at("12:20").type("evacuate", **pulled(("pump", clock("11:00")), readings=readings))
    assert day.claim("dry").standing == "not_yet"
    day.close("evacuate", "four ports, end of day")
    day.at("12:30").type("weigh_in", system_state="empty", draws={"d1": draw("14", "31 lb")})
    assert day.mark() == "18 lb 0.4 oz"
    assert "weigh_in.vacuum" not in day.rules("weigh_in")
    day.type("weigh_in", draws={"d1": {"gross_end": "18.7 lb"}})
    assert day.inside.startswith("12 lb 4.8 oz")
    assert day.claim("charged").standing == "not_yet"
    day.type("weigh_in", draws={"d1": {"gross_end": "18.0 lb"}})
    assert day.inside.startswith("13 lb 0.0 oz")
    assert day.word("weigh_in") == "Holds"
    assert day.claim("charged").standing == "shown"
    day.close("weigh_in")
    reading = {
        "suction_pressure": "125 psig",
        "suction_line": "57 °F",
        "liquid_pressure": "360 psig",
        "liquid_line": "94.4 °F",
        "outdoor": "88 °F",
        "return_air": "76 °F",
        "supply": "57 °F",
    }
    day.at("13:00").type("verify", mode="cooling", **{**READY, "run_in": "12 min"}, readings={"r1": reading})
    assert day.word("verify") == "Holds", day.found.step("verify").verdict
    day.close("verify")
    assert day.claims == "S S S A A S S"
    assert day.close_out("proven").startswith("13 lb 0.0 oz")
    told = day.found.standing.words.show()
    assert "M. Orrin answers for it: looked good, bubbles clean." in told
    assert "four ports, end of day" in told


def test_11_gatehouse_ductless_one_pound_now_a_coil_later() -> None:
    plate = {
        **SITE,
        **PAIRED,
        "refrigerant": "R-410A",
        "kind": "ductless",
        "metering": "eev",
        "factory_charge": "40 oz",
        "included_length": "25 ft",
        "lines": {"l1": {"length": "10 ft", "allowance": "0.2 oz/ft"}},
    }
    day = Day("08:00", stops={"hold.drop", "hold.leak"})
    day.type("identify", **plate)
    day.answer("identify")
    day.close("identify")
    day.type("as_found", running="settled", run_time="20 min", mode="cooling", inverter=True, suction_pressure="50 psig")
    day.type("leak_search", inside="little", places={"indoor_coil": {"reach": "open", "electronic": "unsure"}})
    day.at("08:40").type("weigh_in", draws={"d1": draw("14", "30 lb", "29 lb")})
    assert day.inside == "not known, at least 1 lb 0.0 oz"
    day.end("running_not_proven", "a coil is ordered", "a coil")
    day.come_back("08:00", 14)
    day.type(
        "recover", **RECOVER, cylinders={"c1": out("R-6", "18 lb", "19 lb 2 oz", water="26.2 lb")}, **ended(waited="5 min", risen="0 psig")
    )
    assert day.inside == "empty"
    day.close("recover", "as it was")
    day.at("09:00", 14).type(
        "pressure_hold", **hold(clock("08:30", 14), (clock("08:45", 14), 466), (clock("09:00", 14), 447), bubbles="no", volume="2.5 L")
    )
    assert day.word("pressure_hold") == "Wait"
    assert (day.rules("pressure_hold")["hold.drop"], day.rules("pressure_hold")["hold.no_metal"]) == ("Wait", "Open")
    day.type("leak_search", inside="nitrogen", places={"indoor_coil": {"bubbles": "hit"}})
    assert day.claim("tight").standing == "contradicted"
    day.leave("leak_search", "coil bubbles in the middle")
    day.leave("as_found", "seen on the first visit")
    day.at("10:30", 14).type(
        "repair",
        **{**REPAIR, "drier": "none_by_maker", "bulb": "none"},
        parts={"p1": {"label": "indoor coil", "kind": "coil", "failed_by": "corrosion", "pressurized": True}},
    )
    day.close("repair")
    day.close("pressure_hold", "the coil is changed")
    day.again("pressure_hold", "new coil")
    day.at("11:20", 14).type(
        "pressure_hold", **hold(clock("10:45", 14), (clock("11:00", 14), 500), (clock("11:20", 14), 500), volume="2.5 L")
    )
    assert day.claim("tight").standing == "shown"
    day.close("pressure_hold")
    readings = ((clock("11:50", 14), 300), (clock("12:00", 14), 360))
    day.at("12:00", 14).type(
        "evacuate", **pulled(("pump", clock("11:25", 14)), ("isolated", clock("11:50", 14)), readings=readings), volume="2.5 L"
    )
    assert day.word("evacuate") == "Holds"
    day.close("evacuate")
    day.at("12:10", 14).type("weigh_in", system_state="empty", draws={"d2": draw("14", "29 lb")})
    assert day.mark() == "26 lb 8.0 oz"
    assert abs(day.figure_oz("weigh_in", "to_weigh") - 40.0) < 0.05
    day.type("weigh_in", draws={"d2": {"gross_end": "26 lb 8 oz"}})
    assert day.inside.startswith("2 lb 8.0 oz")
    day.close("weigh_in")
    assert day.claims == "S S S S S S N"
    assert day.close_out("proven_by_weight").startswith("2 lb 8.0 oz")


def test_13_bus_garage_its_own_charge_through_a_drier() -> None:
    """R-22 heat pump: 10 lb came out of 9 lb 4 oz; the last reading before the vacuum proves nothing of the hold; too cold for subcooling."""
    plate = {
        **SITE,
        "pairing_proven": True,
        "pairing_by": "only",
        "refrigerant": "R-22",
        "kind": "heat_pump",
        "metering": "txv",
        "factory_charge": "9 lb 4 oz",
        "subcooling_target": "10 °F",
        "included_length": "0 ft",
        "lines": {"l1": {"length": "0.1 ft", "allowance": "0.6 oz/ft"}},
    }
    day = Day("08:00")
    day.type("identify", **plate)
    day.answer("identify")
    day.close("identify")
    day.leave("as_found", "runs badly, drier colder at its outlet")
    day.leave("leak_search", "nothing is missing")
    own = {**RECOVER, "use": "reuse", "burnout": False, "same_owner": True, "acid": "clean"}
    day.at("09:00").type("recover", **own, cylinders={"c1": out("R-6", "18 lb", "25.6 lb", water="26.2 lb")})
    assert "7 lb 9.6 oz so far" in day.found.step("recover").verdict.headline.show()
    assert "recover.share" not in day.rules("recover")
    day.at("09:30").type("recover", cylinders={"c1": {"gross_now": "28 lb"}}, **ended(waited="5 min", risen="0 psig"))
    assert "108.1 % came out" in day.told("recover", "recover.share").replace("108 %", "108.1 %")
    day.close("recover", "owner wants his own back, black inside and no acid")
    day.at("10:30").type(
        "repair",
        **REPAIR,
        parts={"p1": {"label": "outdoor expansion valve", "kind": "metering", "failed_by": "contamination"}},
        acid_test=True,
        flow_for="0 min",
    )
    day.close("repair", "one drier in the transfer")
    day.type("pressure_hold", **hold(clock("10:40"), bubbles="no"))
    assert day.claim("tight").standing == "not_yet"
    day.close("pressure_hold", "stamp not found, not read after the break")
    rows = (
        (clock("11:30"), 335),
        (clock("11:35"), 441),
        (clock("11:38"), 436),
        (clock("11:41"), 430),
        (clock("11:46"), 430),
        (clock("11:51"), 431),
    )
    for n in (4, 5, 6):
        found = day.at(f"11:{(41, 46, 51)[n - 4]}").type(
            "evacuate", **pulled(("pump", clock("10:45")), ("isolated", clock("11:30")), readings=rows[:n]), volume="9 L"
        )
    assert found.verdict.word == "Holds", found.verdict
    assert day.claim("dry").standing == "shown"
    day.close("evacuate")
    assert day.claim("tight").standing == "answered_for"
    day.at("12:00").type("weigh_in", system_state="empty", draws={"d1": draw("R-6", "28 lb", tare="18 lb", contents="recovered")})
    stays = [("28 lb", "27 lb"), ("27 lb", "23 lb 8 oz"), ("23 lb 8 oz", "21 lb"), ("21 lb", "20 lb"), ("20 lb", "18 lb 12 oz")]
    day.type(
        "weigh_in",
        draws={f"d{n}": draw("R-6", before, after, tare="18 lb", contents="recovered") for n, (before, after) in enumerate(stays, 1)},
    )
    assert day.inside == "9 lb 4.0 oz ± 0.8 oz"
    assert day.word("weigh_in") == "Holds", day.found.step("weigh_in").verdict
    day.close("weigh_in")
    reading = {"true_suction": "55 psig", "liquid_pressure": "210 psig", "outdoor": "50 °F", "return_air": "68 °F"}
    day.at("13:00").type("verify", mode="heating", **READY, readings={"r1": reading})
    assert day.claims == "S S S A S S S"


def test_21_two_circuits_eight_ounces_apart() -> None:
    plate = {
        **SITE,
        "refrigerant": "R-410A",
        "kind": "packaged",
        "metering": "txv",
        "factory_charge": "8 lb",
        "other_charge": "7 lb 8 oz",
        "circuit_known": False,
        "subcooling_target": "11 °F",
    }
    day = Day("08:00")
    day.type("identify", **plate)
    day.close("identify", "no label on either circuit")
    reading = {
        "suction_pressure": "142.6 psig",
        "suction_line": "50.2 °F",
        "liquid_pressure": "540 psig",
        "liquid_line": "81.1 °F",
        "outdoor": "75 °F",
    }
    day.type("as_found", running="settled", run_time="15 min", mode="cooling", **reading)
    day.close("as_found", "far over")
    day.leave("leak_search", "too much, not too little")
    day.at("09:30").type("recover", **RECOVER, cylinders={"c1": out("R-1", "27 lb", "37 lb 2 oz")}, **ended())
    assert "over" in str(day.rules("recover")) or day.rules("recover")["recover.share"] == "Open"
    day.close("recover", "over by either plate")
    day.at("10:00").type("repair", **REPAIR, parts={"p1": {"label": "filter drier", "kind": "drier"}})
    day.close("repair")
    day.close("pressure_hold", "joints bubbled clean, pressure not read twice")
    day.at("10:40").type("evacuate", **pulled(("pump", clock("10:05")), readings=((clock("10:40"), 729),)))
    day.close("evacuate", "not shut off")
    day.at("11:00").type("weigh_in", system_state="empty", draws={"d1": draw("14", "31 lb")})
    assert day.mark() == "23 lb 8.0 oz"
    day.type("weigh_in", draws={"d1": {"gross_end": "23 lb 8 oz"}})
    assert day.inside.startswith("7 lb 8.0 oz")
    day.close("weigh_in", "which circuit is still open")
    first = {
        "suction_pressure": "112 psig",
        "liquid_pressure": "246 psig",
        "suction_line": "50 °F",
        "liquid_line": "76.3 °F",
        "outdoor": "75 °F",
        "supply": "52 °F",
    }
    day.at("11:20").type("verify", mode="cooling", **READY, readings={"r1": first})
    assert day.rules("verify")["verify.which_circuit"] == "Wait"
    more = {
        "cylinder": "14",
        "gross_before": "23 lb 8 oz",
        "gross_after": "23 lb",
        "suction_pressure": "112 psig",
        "suction_line": "50 °F",
        "liquid_pressure": "255 psig",
        "liquid_line": "73.0 °F",
        "outdoor": "75 °F",
    }
    day.at("11:40").type("verify", readings={"r2": more})
    assert day.inside.startswith("8 lb 0.0 oz")
    assert day.word("verify") == "Holds", day.found.step("verify").verdict
    day.close("verify")
    assert day.claims == "S S S A A S S"
    assert day.close_out("proven").startswith("8 lb 0.0 oz")


def test_9_caretakers_heat_pump_a_seized_compressor() -> None:
    plate = {
        **SITE,
        **PAIRED,
        "refrigerant": "R-410A",
        "kind": "heat_pump",
        "metering": "txv",
        "factory_charge": "86 oz",
        "charge_told": "5.3 lb",
        "included_length": "15 ft",
        "subcooling_target": "10 °F",
        "lines": {"l1": {"length": "15 ft", "allowance": "0.6 oz/ft"}},
    }
    day = Day("08:00")
    day.type("identify", **plate)
    day.answer("identify")
    day.close("identify")
    day.leave("as_found", "seized, does not run")
    day.leave("leak_search", "no place found")
    own = {**RECOVER, "use": "reuse", "burnout": False, "same_owner": True, "acid": "not_tested"}
    day.at("09:00").type(
        "recover", **own, cylinders={"c1": out("R-5", "13 lb", "17.7 lb", water="26.2 lb")}, **ended(waited="5 min", risen="0 psig")
    )
    assert "10.8 oz ± 0.8 oz of 5 lb 6.0 oz" in day.told("recover", "recover.share")
    day.close("recover", "it was low, no place found")
    parts = {"p1": {"label": "compressor", "kind": "compressor", "failed_by": "unknown"}, "p2": {"label": "capacitor", "kind": "other"}}
    day.at("11:00").type("repair", **REPAIR, parts=parts, oil_out="none")
    day.close("repair", "cause not known")
    day.at("11:40").type("pressure_hold", **hold(clock("11:10"), (clock("11:25"), 210), (clock("11:39"), 210), volume="5 L"))
    assert day.word("pressure_hold") == "Wait"
    assert "No place was found that explains it." in day.claim("tight").words.show()
    day.close("pressure_hold", "no leak found")
    day.at("12:20").type("evacuate", **pulled(("pump", clock("11:45")), ("isolated", clock("12:20")), readings=((clock("12:19"), 423),)))
    assert day.claim("dry").standing == "not_yet"
    day.close("evacuate", "not watched")
    draws = {
        "d1": draw("R-5", "17 lb 11.2 oz", "14 lb 8.6 oz", tare="13 lb", contents="recovered"),
        "d2": draw("15", "25 lb", "22 lb 12.6 oz"),
    }
    day.at("12:40").type("weigh_in", system_state="empty", draws=draws)
    assert day.inside == "5 lb 6.0 oz ± 1.2 oz"
    assert day.word("weigh_in") == "Holds", day.found.step("weigh_in").verdict
    day.close("weigh_in")
    reading = {
        "suction_pressure": "118 psig",
        "suction_line": "50 °F",
        "liquid_pressure": "330 psig",
        "liquid_line": "92.0 °F",
        "outdoor": "80 °F",
    }
    day.at("13:00").type("verify", mode="cooling", **READY, readings={"r1": reading}, both_modes=True)
    assert day.word("verify") == "Holds", day.found.step("verify").verdict
    day.close("verify")
    assert day.claims == "S S A A A S S"
    assert day.close_out("proven").startswith("5 lb 6.0 oz")


def test_4_bakery_bench_cooler_topped_up_then_done_properly() -> None:
    plate = {**SITE, "refrigerant": "R-404A", "kind": "reach_in", "metering": "txv", "factory_charge": "1 lb 12 oz", "listed": True}
    day = Day("08:00")
    day.type("identify", **plate)
    day.close("identify")
    day.type("as_found", running="cycling", suction_pressure="5 psig", suction_swing="25 psig", liquid_pressure="150 psig")
    day.at("09:00").type("weigh_in", draws={"d1": draw("14", "20 lb", "19 lb 6 oz")})
    assert day.inside == "not known, at least 10.0 oz"
    day.at("09:20").type(
        "leak_search", inside="refrigerant", places={"service": {"label": "suction service valve", "reach": "open", "bubbles": "hit"}}
    )
    day.end("running_not_proven", "parts ordered", "a valve and a drier")
    assert day.claims == "S – N C – N N"
    assert day.found.standing.short_again is None
    day.come_back("08:00", 7)
    day.close("as_found", "seen on the first visit")
    day.type("recover", **RECOVER, cylinders={"c1": out("R-7", "25 lb", "26 lb 1 oz", water="26.2 lb")}, **ended(waited="5 min"))
    assert day.inside == "empty"
    day.close("recover", "61 % of it")
    day.at("09:00", 7).type(
        "repair",
        **{**REPAIR, "bulb": "placed"},
        parts={"p1": {"label": "service valve", "kind": "valve", "failed_by": "corrosion"}, "p2": {"label": "drier", "kind": "drier"}},
    )
    day.close("repair")
    day.close("pressure_hold", "brazed blind, unit cannot be reached again")
    readings = ((clock("10:00", 7), 410), (clock("10:10", 7), 455))
    day.at("10:10", 7).type(
        "evacuate", **pulled(("pump", clock("09:20", 7)), ("isolated", clock("10:00", 7)), readings=readings), volume="3 L"
    )
    assert day.word("evacuate") == "Holds", day.found.step("evacuate").verdict
    day.close("evacuate")
    day.at("10:20", 7).type("weigh_in", system_state="empty", scale_step="0.1 oz", draws={"d2": draw("14", "19 lb 6 oz")})
    assert abs(day.figure_oz("weigh_in", "to_weigh") - 28.0) < 0.05
    assert day.mark() == "17 lb 10.0 oz"
    day.type("weigh_in", draws={"d2": {"gross_end": "17 lb 10 oz"}})
    assert day.inside.startswith("1 lb 12.0 oz")
    assert day.word("weigh_in") == "Holds", day.found.step("weigh_in").verdict
    day.close("weigh_in")
    day.type("leak_search", places={"service": {"bubbles": "clean"}})
    reading = {"box": "41 °F", "outdoor": "75 °F", "liquid_pressure": "253 psig", "suction_pressure": "48 psig"}
    day.at("11:00", 7).type("verify", mode="cooling", **READY, readings={"r1": reading})
    day.close("verify")
    assert day.claims == "S S S A S S S"
    assert day.close_out("proven_by_weight").startswith("1 lb 12.0 oz")


def test_12_twin_loft_east() -> None:
    """East: 7.0 oz short, the vacuum watched and not under 500; right in cooling, its outdoor valve floods in heating."""
    plate = {
        **SITE,
        **PAIRED,
        "refrigerant": "R-410A",
        "kind": "heat_pump",
        "metering": "txv",
        "factory_charge": "8 lb",
        "included_length": "15 ft",
        "subcooling_target": "10 °F",
        "lines": {"l1": {"length": "15 ft", "allowance": "0.6 oz/ft"}},
    }
    day = Day("08:00")
    day.type("identify", **plate)
    day.answer("identify")
    day.close("identify")
    day.leave("as_found", "blocked, does not cool")
    day.leave("leak_search", "not a leak")
    day.at("09:00").type("recover", **RECOVER, cylinders={"c1": out("R-1", "27 lb", "34 lb 9 oz")}, **ended(waited="5 min", risen="0 psig"))
    assert "7.0 oz ±" in day.told("recover", "recover.share")
    day.close("recover", "no place found")
    parts = {
        "p1": {"label": "filter drier", "kind": "drier", "failed_by": "contamination"},
        "p2": {"label": "indoor expansion valve", "kind": "metering", "failed_by": "contamination"},
    }
    day.type("repair", **{**REPAIR, "drier": "suction_too"}, parts=parts, acid_test=True)
    day.close("repair")
    day.at("10:26").type(
        "pressure_hold", **hold(clock("09:29"), (clock("09:44"), 154.5), (clock("10:26"), 154.5), bubbles="no", volume="9 L")
    )
    day.close("pressure_hold", "no bubbles, 42 min")
    readings = ((clock("12:39"), 482), (clock("12:40"), 480), (clock("12:50"), 505))
    done = (("pump", clock("10:30")), ("nitrogen", clock("11:00")), ("pump", clock("11:10")), ("isolated", clock("12:40")))
    day.at("12:50").type("evacuate", **{**pulled(*done, readings=readings, volume="9 L"), "method": "triple", "two_hoses": True})
    assert day.word("evacuate") == "Wait"
    assert day.claim("dry").standing == "not_yet"
    day.close("evacuate", "oil gives refrigerant back, no more time")
    day.at("13:00").type("weigh_in", system_state="empty", draws={"d1": draw("14", "30 lb")})
    assert day.mark() == "22 lb 0.0 oz"
    day.type("weigh_in", draws={"d1": {"gross_end": "22 lb"}})
    assert day.inside.startswith("8 lb 0.0 oz")
    day.close("weigh_in")
    cooling = {
        "suction_pressure": "125 psig",
        "suction_line": "52 °F",
        "liquid_pressure": "340 psig",
        "liquid_line": "94 °F",
        "outdoor": "80 °F",
        "return_air": "75 °F",
        "return_wet_bulb": "63 °F",
        "supply": "56 °F",
    }
    day.at("13:30").type("verify", mode="cooling", **READY, readings={"r1": cooling})
    assert day.claim("runs").standing == "shown", day.found.step("verify").verdict
    day.type(
        "verify", other_mode={"o1": {"true_suction": "156 psig", "liquid_pressure": "408 psig", "outdoor": "60 °F", "return_air": "70 °F"}}
    )
    assert "only" in day.told("verify", "verify.floods")
    assert day.claims == "S S S A A S C"
    assert not {"proven", "proven_by_weight"} & day.ways()
    day.end("running_not_proven", "floods in heating, cooling fine", "the outdoor valve")
    assert "Runs right:" in day.found.standing.words.show()


def test_14_weather_mast_a_few_squirts() -> None:
    """New outdoor unit, stamped 5 lb 10 oz for 15 ft: two squirts nobody weighed, and the cylinder put on the scale afterwards."""
    plate = {
        **SITE,
        **PAIRED,
        "refrigerant": "R-410A",
        "kind": "split",
        "metering": "orifice",
        "orifice": "0.059",
        "factory_charge": "5 lb 10 oz",
        "included_length": "15 ft",
        "lines": {"l1": {"length": "30 ft", "allowance": "0.6 oz/ft"}},
    }
    day = Day("08:00")
    day.type("identify", **plate)
    day.answer("identify")
    day.close("identify")
    day.leave("as_found", "new installation, never ran")
    day.leave("leak_search", "all new")
    day.leave("recover", "new installation")
    day.type("weigh_in", system_state="precharged", inside="5 lb 10 oz")
    day.type(
        "repair",
        **{**REPAIR, "orifice": "0.059", "opened_for": "20 min", "at_zero": True},
        parts={"p1": {"label": "outdoor unit", "kind": "other"}},
    )
    day.close("repair")
    day.at("10:06").type("pressure_hold", **hold(clock("10:00"), (clock("10:00"), 200), (clock("10:06"), 200), volume="4 L"))
    assert day.claim("tight").standing == "shown"
    assert "200.0 psig held for 6 min" in day.claim("tight").words.show()
    day.close("pressure_hold", "let off after six minutes")
    rows = ((clock("10:40"), 90), (clock("10:50"), 60), (clock("11:01"), 400))
    day.at("11:01").type(
        "evacuate", **pulled(("pump", clock("10:15")), ("isolated", clock("10:51")), readings=rows, volume="4 L", oil_uses="5")
    )
    assert day.word("evacuate") == "Wait"
    day.close("evacuate", "first look late")
    assert day.claim("dry").standing == "answered_for"
    assert day.claims.startswith("S – – S A")
    assert abs(day.figure_oz("identify", "total") - 99.0) < 0.05
    assert abs(day.figure_oz("weigh_in", "to_weigh") - 9.0) < 0.05
    day.at("11:05").act("valves", kind="let_back")
    assert "vacuum.let_back" not in day.rules("evacuate")
    day.act("valves", done=True)
    day.at("11:20").act("a1", kind="in", cylinder="14", at=clock("11:20"), done=True)
    assert day.inside == "not known, at least 5 lb 10.0 oz"
    assert day.claim("charged").standing == "not_yet"
    day.at("11:40").type(
        "verify",
        mode="cooling",
        **READY,
        chart_superheat="12 °F",
        readings={"r1": {"suction_pressure": "125 psig", "suction_line": "53.5 °F", "outdoor": "85 °F"}},
    )
    assert day.word("verify") in {"Holds", "Wait"}, day.found.step("verify").verdict
    day.at("11:50").act("a1", gross_before="24 lb 3 oz", gross_after="23 lb 10.8 oz")
    assert day.inside.startswith("6 lb 2.2 oz")
    assert day.claim("charged").standing == "shown"
    day.close("weigh_in", "squirted in while it ran")
    day.close("verify")
    assert day.claims == "S – – S A S S"
    assert day.close_out("proven").startswith("6 lb 2.2 oz")
    moved = [(p.movement.kind, round(p.movement.mass_kg / OZ_KG, 1)) for p in day.job.ledger]
    assert moved == [("charge", 8.2)]


def test_6_clockmakers_cottage_a_new_unit_as_it_came() -> None:
    """The new unit's own job: stamped 6 lb 4 oz for its 15 ft, kept lines, nothing weighed at all."""
    plate = {
        **SITE,
        **PAIRED,
        "refrigerant": "R-410A",
        "kind": "split",
        "metering": "txv",
        "factory_charge": "6 lb 4 oz",
        "included_length": "15 ft",
        "subcooling_target": "10 °F",
        "design_low": "250 psig",
        "lines": {"l1": {"length": "15 ft", "allowance": "0.6 oz/ft"}},
    }
    day = Day("08:00")
    day.type("identify", **plate)
    day.answer("identify")
    day.close("identify")
    day.leave("as_found", "new installation, never ran")
    day.leave("leak_search", "all new")
    day.leave("recover", "the old unit went with its charge")
    day.type("weigh_in", system_state="precharged", inside="6 lb 4 oz")
    parts = {"p1": {"label": "outdoor unit", "kind": "other"}, "p2": {"label": "drier", "kind": "drier"}}
    day.type("repair", **{**REPAIR, "joining": "soldered", "lines": "as_they_were"}, parts=parts)
    assert any(m.hard and "at zero" in m.label for m in day.found.step("repair").missing)
    day.type("repair", at_zero=True)
    day.close("repair", "lines kept, not flushed")
    rows = ((clock("10:05"), 349.4), (clock("10:23"), 349.4))
    metal = {f"r{n}": {"metal": "80 °F"} for n in (1, 2)}
    day.at("10:23").type(
        "pressure_hold",
        **{**hold(clock("10:00"), *rows, bubbles="no", stamps={"s1": {"label": "coil", "pressure": "400 psig"}}), "metal_by": "clamp"},
        volume="3.5 L",
    )
    day.type("pressure_hold", readings=metal)
    assert "hold.refrigerant" not in day.rules("pressure_hold")
    assert day.rules("pressure_hold")["hold.lines"] == "Open"
    assert day.claim("tight").standing == "not_yet"
    day.close("pressure_hold", "no bubbles at hand")
    falls = ((clock("10:52"), 480), (clock("10:55"), 440), (clock("11:00"), 440))
    done = (("pump", clock("10:40")), ("isolated", clock("10:55")))
    vacuum = {key: value for key, value in pulled(*done, readings=falls, volume="3.5 L").items() if key != "valves_open"}
    day.at("10:54").type("evacuate", **{**vacuum, "events": {"e1": vacuum["events"]["e1"]}})
    day.act("valves", kind="let_back")
    assert day.rules("evacuate")["vacuum.let_back"] == "Stop"
    day.at("11:00").type("evacuate", **vacuum)
    assert "vacuum.let_back" not in day.rules("evacuate")
    assert not any("valves" in m.label for m in day.found.step("evacuate").missing)
    assert day.word("evacuate") == "Wait"
    day.close("evacuate", "440 and standing, no more time")
    assert day.rules("verify")["verify.shut_valves"] == "Stop"
    day.act("valves", at=clock("11:05"), done=True)
    assert "verify.shut_valves" not in day.rules("verify")
    assert (day.word("weigh_in"), day.inside) == ("Holds", "6 lb 4.0 oz")
    assert "Nothing to weigh in: 6 lb 4.0 oz came in it" in day.told("weigh_in", "weigh_in.as_stamped")
    day.close("weigh_in")
    reading = {
        "suction_pressure": "122 psig",
        "suction_line": "52 °F",
        "liquid_pressure": "355 psig",
        "liquid_line": "97.0 °F",
        "outdoor": "88 °F",
        "return_air": "78 °F",
        "supply": "55 °F",
    }
    day.at("11:30").type("verify", mode="cooling", **{**READY, "run_in": "10 min"}, readings={"r1": reading})
    day.close("verify")
    assert day.claims == "S – – A A S S"
    assert day.close_out("proven").startswith("6 lb 4.0 oz")


def test_7_guest_lodge_charge_kept_outdoors() -> None:
    """A pump-down: some had leaked, nobody weighed, so at most what is on record is inside, and the running unit cannot prove it."""
    plate = {
        **SITE,
        **PAIRED,
        "refrigerant": "R-410A",
        "kind": "heat_pump",
        "metering": "txv",
        "factory_charge": "8 lb",
        "included_length": "15 ft",
        "subcooling_target": "10 °F",
        "lines": {"l1": {"length": "30 ft", "allowance": "0.6 oz/ft"}},
    }
    day = Day("08:00")
    day.type("identify", **plate)
    day.answer("identify")
    day.close("identify")
    day.leave("as_found", "runs, leaks a little")
    day.type("leak_search", inside="refrigerant", places={"indoor_coil": {"reach": "open", "electronic": "hit", "bubbles": "hit"}})
    day.close("leak_search")
    down = {"way": "pump_down", "compressor_runs": True, "low_breach": False, "small_condenser": False, "into_vacuum": False}
    day.at("09:00").type("recover", **down, finished=True, shut_at="1 psig")
    assert day.rules("recover")["pump_down.mode"] == "Open"
    assert day.inside == "not known, at most 8 lb 9.0 oz"
    assert day.claim("emptied").standing == "shown"
    day.close("recover")
    day.at("10:00").type(
        "repair",
        **{**REPAIR, "drier": "kept", "at_zero": True},
        parts={"p1": {"label": "indoor coil", "kind": "coil", "failed_by": "corrosion", "pressurized": True}},
    )
    day.close("repair", "the drier stays")
    assert "hold.refrigerant" not in day.rules("pressure_hold")
    day.at("10:40").type("pressure_hold", **hold(clock("10:24"), (clock("10:24"), 150), (clock("10:40"), 150), volume="4 L"))
    assert day.claim("tight").standing == "shown"
    day.close("pressure_hold", "sixteen minutes")
    rows = ((clock("11:00"), 2625), (clock("11:30"), 66), (clock("11:40"), 120))
    vacuum = pulled(("pump", clock("10:50")), ("isolated", clock("11:30")), readings=rows, volume="4 L")
    day.at("11:40").type("evacuate", **{key: value for key, value in vacuum.items() if key != "valves_open"})
    assert day.word("evacuate") == "Holds", day.found.step("evacuate").verdict
    day.close("evacuate")
    day.act("valves", kind="let_back", at=clock("11:45"), done=True)
    assert day.inside == "not known, at most 8 lb 9.0 oz"
    assert day.claim("charged").standing == "not_yet"
    reading = {
        "suction_pressure": "128 psig",
        "suction_line": "54 °F",
        "liquid_pressure": "340 psig",
        "liquid_line": "93.5 °F",
        "outdoor": "84 °F",
        "return_air": "75 °F",
        "supply": "56 °F",
    }
    day.at("12:10").type("verify", mode="cooling", **READY, readings={"r1": reading}, both_modes=True)
    assert day.claims == "S S S S S N S", day.found.step("verify").verdict
    assert not {"proven", "proven_by_weight", "proven_running"} & day.ways()
    day.close("verify", "by the running unit only")
    assert day.close_out("running_not_proven", "how much had leaked nobody knows") == "not known, at most 8 lb 9.0 oz"


def test_1_dormitory_coil_and_outdoor_unit_in_one_day() -> None:
    """5 lb 3 oz out of the old; the new unit's 5 lb 8 oz let back, 1 lb 8 oz more by the plan while it runs: 6 lb 15.5 oz."""
    plate = {
        **SITE,
        **PAIRED,
        "refrigerant": "R-410A",
        "kind": "split",
        "metering": "orifice",
        "orifice": "0.057",
        "factory_charge": "5 lb 8 oz",
        "included_length": "15 ft",
        "lines": {"l1": {"length": "55 ft", "allowance": "0.6 oz/ft"}},
    }
    day = Day("08:00")
    day.type("identify", **plate)
    day.answer("identify")
    day.close("identify")
    day.leave("as_found", "does not cool, coil oily")
    day.type("leak_search", inside="refrigerant", places={"indoor_coil": {"reach": "open", "eyes": "hit"}})
    day.close("leak_search", "oily at a bend")
    day.at("08:20").type("recover", **RECOVER, cylinders={"c1": out("R-3", "27 lb 2 oz", "27 lb 5.5 oz", tare="27 lb")})
    assert "3.5 oz so far" in day.found.step("recover").verdict.headline.show()
    day.at("09:00").type("recover", cylinders={"c1": {"gross_now": "32 lb 5 oz"}}, **ended(risen="0.5 psig"))
    assert abs(day.figure_oz("recover", "recovered") - 83.0) < 0.05
    assert day.inside == "empty"
    day.close("recover", "old plate unreadable")
    coil = {"label": "indoor coil", "kind": "coil", "failed_by": "corrosion", "pressurized": True}
    day.at("10:30").type("repair", **{**REPAIR, "orifice": "0.051"}, parts={"p1": coil})
    assert day.rules("repair")["repair.orifice"] == "Wait"
    day.type("repair", orifice="0.057")
    assert day.word("repair") == "Holds"
    day.close("repair")
    day.at("12:15").type("pressure_hold", **hold(clock("11:25"), (clock("11:25"), 160), (clock("12:15"), 160), volume="6 L"))
    assert (day.word("pressure_hold"), day.claim("tight").standing) == ("Holds", "shown")
    day.close("pressure_hold")
    day.at("13:00").again("repair", "the outdoor unit too")
    day.type("weigh_in", system_state="precharged", inside="5 lb 8 oz")
    day.at("13:30").type(
        "repair", **{**REPAIR, "orifice": "0.057", "at_zero": True}, parts={"p2": {"label": "outdoor unit", "kind": "other"}}
    )
    assert day.claim("tight").standing == "not_yet"
    assert "opened again" in day.claim("tight").words.show()
    day.close("repair")
    day.again("pressure_hold", "opened again for the outdoor unit")
    day.at("14:30").type(
        "pressure_hold",
        **hold(
            clock("14:00"),
            (clock("14:00"), 175),
            (clock("14:30"), 175),
            volume="6 L",
            stamps={"s1": {"label": "coil", "pressure": "450 psig"}},
        ),
    )
    assert (day.word("pressure_hold"), day.claim("tight").standing) == ("Holds", "shown")
    assert day.rules("pressure_hold")["hold.lines"] == "Open"
    day.close("pressure_hold")
    done = (("pump", clock("14:35")), ("nitrogen", clock("14:55")), ("pump", clock("15:00")), ("isolated", clock("15:35")))
    rows = ((clock("14:54"), 190), (clock("15:35"), 170), (clock("15:45"), 240))
    vacuum = {**pulled(*done, readings=rows, volume="6 L"), "method": "triple"}
    day.at("15:45").type("evacuate", **{key: value for key, value in vacuum.items() if key != "valves_open"})
    assert day.word("evacuate") == "Holds", day.found.step("evacuate").verdict
    assert "Two readings pass a number; they do not tell moisture from leak." in day.told("evacuate", "vacuum.decay")
    day.close("evacuate")
    day.at("15:50").act("valves", kind="let_back", done=True)
    assert day.inside == "5 lb 8.0 oz"
    assert abs(day.figure_oz("identify", "total") - 112.0) < 0.05
    assert abs(day.figure_oz("weigh_in", "to_weigh") - 24.0) < 0.05
    first = {
        "suction_pressure": "118 psig",
        "suction_line": "76.4 °F",
        "liquid_pressure": "330 psig",
        "liquid_line": "95 °F",
        "return_wet_bulb": "69 °F",
        "outdoor": "89 °F",
    }
    day.at("16:10").type("verify", mode="cooling", **{**READY, "run_in": "20 min"}, readings={"r1": first})
    marks = ("24 lb 3 oz", "23 lb 11 oz", "23 lb 3 oz", "22 lb 11.5 oz")
    for n, inside in enumerate(("6 lb 0.0 oz", "6 lb 8.0 oz", "6 lb 15.5 oz")):
        step = {"cylinder": "14", "gross_before": marks[n], "gross_after": marks[n + 1]}
        last = {
            "suction_pressure": "125 psig",
            "suction_line": "59.4 °F",
            "liquid_pressure": "360 psig",
            "liquid_line": "98.0 °F",
            "return_wet_bulb": "69.5 °F",
            "outdoor": "88 °F",
        }
        day.at(f"16:{20 + 10 * n}").type("verify", readings={f"r{n + 2}": {**step, **(last if n == 2 else first)}})
        assert day.inside.startswith(inside)
        assert "trim.cap" not in day.rules("verify")
    assert day.word("verify") == "Holds", day.found.step("verify").verdict
    day.close("weigh_in", "put in by the plan while it ran")
    day.close("verify")
    assert day.claims == "S S S S S S S"
    assert day.close_out("proven").startswith("6 lb 15.5 oz")


def test_12_twin_loft_west_some_of_it_went_off() -> None:
    """The wrong drier was heated and blew: what went off nobody weighed, the rest came out by the scale; emptied is answered for."""
    plate = {
        **SITE,
        **PAIRED,
        "refrigerant": "R-410A",
        "kind": "heat_pump",
        "metering": "txv",
        "factory_charge": {"text": "8 lb", "source": "note"},
        "included_length": "15 ft",
        "subcooling_target": "10 °F",
        "lines": {"l1": {"length": "15 ft", "allowance": "0.6 oz/ft"}},
    }
    day = Day("08:00")
    day.type("identify", **plate)
    day.answer("identify")
    day.close("identify")
    day.act("a1", kind="found", mass={"text": "8 lb", "source": "note"})
    assert day.inside == "8 lb 0.0 oz"
    day.at("09:00").act("a2", kind="lost", done=True, reason="its drier was heated, J. Pell")
    assert day.inside == "not known, at most 8 lb 0.0 oz"
    assert day.rules("repair").get("repair.at_zero") is None
    day.at("10:00").type(
        "recover", **RECOVER, cylinders={"c1": out("R-2", "27 lb", "34 lb 11 oz")}, **ended(waited="5 min", risen="0 psig")
    )
    assert day.inside == "empty"
    emptied = day.claim("emptied")
    assert (emptied.standing, emptied.words.show()) == ("not_yet", "Refrigerant went into the air, nobody weighed it.")
    day.close("recover", "five ounces at most, by the record", "J. Pell")
    assert day.claim("emptied").standing == "answered_for"
    assert "Refrigerant went into the air" in day.found.standing.words.show()


def test_6_the_old_unit_goes_with_its_charge_on_its_own_account() -> None:
    """R-22 pumped down at −1 psig and carted off whole: its own job, its own account, never a line of the new one."""
    plate = {
        **SITE,
        **PAIRED,
        "refrigerant": "R-22",
        "kind": "split",
        "metering": "orifice",
        "orifice": "as fitted",
        "factory_charge": "6 lb 8 oz",
        "included_length": "15 ft",
        "lines": {"l1": {"length": "15 ft", "allowance": "0.6 oz/ft"}},
    }
    day = Day("08:00")
    day.type("identify", **plate)
    day.answer("identify")
    down = {"way": "pump_down", "compressor_runs": True, "low_breach": False, "small_condenser": False, "into_vacuum": False}
    day.at("08:30").type("recover", **down, finished=True, shut_at="-1 psig")
    assert day.rules("recover")["pump_down.shut"] == "Open"
    assert day.inside == "not known, at most 6 lb 8.0 oz"
    assert day.claim("emptied").standing == "shown"
    day.at("09:30").act("a1", kind="out", at_most="6 lb 8 oz", empties=True, done=True, reason="gone with the unit")
    assert day.inside == "empty"
    assert not [m for m in day.found.movements if m.mass_kg]
    assert day.close_out("handed_over", "the old unit was carted off whole") == "empty"
