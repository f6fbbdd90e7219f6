"""Units without lines of their own: rooftops, reach-ins."""

from tests.whole_jobs.day import READY, RECOVER, REPAIR, SITE, Day, clock, draw, ended, hold, out, pulled
from yoshi_core.day.schedule import plan


def test_15_planetarium_rooftop_three_o_clock_out_by_five() -> None:
    """Packaged, capillary, R-22, 4 lb 8 oz: the vacuum was watched five minutes, and somebody answers for it."""
    plate = {
        **SITE,
        "refrigerant": "R-22",
        "kind": "packaged",
        "metering": "capillary",
        "factory_charge": "4 lb 8 oz",
        "design_low": "250 psig",
    }
    day = Day("15:00")
    day.type("identify", **plate)
    day.close("identify")
    day.type("as_found", running="off", standing_pressure="0 psig", standing_cold="80 °F")
    day.close("as_found")
    day.type("leak_search", inside="nitrogen", places={"distributor": {"label": "distributor tube", "reach": "open", "bubbles": "hit"}})
    assert day.claim("tight").standing == "contradicted"
    assert day.claim("emptied").standing == "shown"
    assert day.claim("emptied").words.show() == "Found empty."
    day.at("15:10").leave("leak_search", "found by eye and bubbles")
    day.leave("recover", "nothing was in it")
    by_five, by_seven = plan([day.left_on_the_clock()], 110 * 60.0).left[0], plan([day.left_on_the_clock()], 230 * 60.0)
    assert (by_five.state, by_five.how) == ("safe", "under nitrogen pressure: becomes a long hold")
    assert by_five.not_done == ("Hoses and gauge", "Pull", "Isolated, watched", "Weigh in", "Run in", "Verify", "Close out")
    assert by_seven.left[0].state == "proven"
    stops = plan([day.left_on_the_clock()], 130 * 60.0).left[0].stops
    assert {how.split(":")[0] for _, how in stops} == {"under nitrogen pressure", "isolated under vacuum"}
    proof = [slot.task.duration_s for slot in by_seven.slots if slot.task.id in {"pressure_hold", "watch", "run_in", "verify"}]
    assert proof == [task.duration_s for task in day.left_on_the_clock().tasks if task.id in {"pressure_hold", "watch", "run_in", "verify"}]
    assert sum(proof) >= 60 * 60.0  # a time to leave shortens none of it
    day.at("15:35").type(
        "repair",
        **{**REPAIR, "capillary": True, "drier": "none_by_maker", "opened_for": "15 min"},
        parts={"p1": {"label": "distributor tube", "kind": "line", "failed_by": "vibration"}},
    )
    day.close("repair", "skimmed shut where it sits")
    day.at("15:50").type(
        "pressure_hold", **hold(clock("15:40"), (clock("15:40"), 116.9), (clock("15:50"), 116.8), searched_at="250 psig", volume="5 L")
    )
    assert (day.word("pressure_hold"), day.rules("pressure_hold")["hold.searched"]) == ("Wait", "Open")
    assert day.claim("tight").standing == "shown"
    assert "held for 10 min, nothing lost. Clean at every joint made." in day.claim("tight").words.show()
    assert day.blind_for(2)
    day.close("pressure_hold", "out by five", "M. Orrin")
    readings = ((clock("15:53"), 6500), (clock("16:24:30"), 435), (clock("16:26:30"), 564), (clock("16:30"), 440))
    day.at("16:30").type("evacuate", **pulled(("pump", clock("15:52")), ("isolated", clock("16:25")), readings=readings), volume="5 L")
    assert day.told("evacuate", "vacuum.decay").endswith("A peak is never judged: 5 min more.")
    assert day.word("evacuate") == "Wait"
    assert (day.claim("dry").standing, day.claim("dry").words.show()) == ("not_yet", "Shut off at 435 micron, 440 micron after 5 min.")
    day.close("evacuate", "must leave at 17:00", "M. Orrin")
    assert day.claim("dry").standing == "answered_for"
    day.at("16:35").type("weigh_in", system_state="empty", scale_step="0.5 oz", draws={"d1": draw("14", "25 lb")})
    assert day.rules("weigh_in")["weigh_in.coarse"] == "Open"
    day.type("weigh_in", scale_step="0.1 oz")
    assert not {"weigh_in.coarse", "critical.scale_share"} & set(day.rules("weigh_in"))
    assert day.mark() == "20 lb 8.0 oz"
    assert not {"weigh_in.vacuum", "weigh_in.vacuum_open"} & set(day.rules("weigh_in"))
    day.type("weigh_in", draws={"d1": {"gross_end": "20 lb 8 oz"}})
    assert day.word("weigh_in") == "Holds"
    assert day.inside.startswith("4 lb 8.0 oz")
    day.close("weigh_in")
    day.at("16:55").type("verify", mode="cooling", **READY, readings={"r1": {"return_air": "78 °F", "supply": "56 °F"}})
    assert day.word("verify") != "Stop"
    day.close("verify", "no other readings before five", "M. Orrin")
    assert day.claims == "S S S S A S A"
    assert "trim.step" not in day.rules("verify")  # a capillary is never trimmed
    assert "435 micron, 440 micron after 5 min. M. Orrin answers for it: must leave at 17:00." in day.for_the_customer()
    assert day.ways() >= {"proven_by_weight"}
    assert "proven" not in day.ways()
    assert day.close_out("proven_by_weight").startswith("4 lb 8.0 oz")
    assert "M. Orrin answers for it: must leave at 17:00." in day.found.standing.words.show()


def test_3_annex_rooftop_cracked_elbow() -> None:
    """Packaged, TXV, R-410A, 4 lb 7 oz: a tracer in and off again; no clamp for the liquid line, so nobody can say what its own test says."""
    day = Day("08:00")
    plate = {
        **SITE,
        "refrigerant": "R-410A",
        "kind": "packaged",
        "metering": "txv",
        "factory_charge": "4 lb 7 oz",
        "subcooling_target": "10 °F",
    }
    day.type("identify", **plate)
    day.close("identify")
    day.type("as_found", running="off", standing_pressure="0 psig", standing_cold="85 °F")
    day.close("as_found")
    assert day.inside == "empty"
    day.act("a1", kind="tracer", cylinder="14", gross_before="25 lb 13 oz", gross_after="25 lb 12 oz")
    assert day.inside.startswith("1.0 oz")
    assert day.rules("leak_search")["leak.tracer_law"] == "Open"
    day.act("a9", kind="tracer", mass="8 oz")
    assert day.rules("leak_search")["leak.tracer"] == "Stop"
    day.act("a9", mass=None, kind="let_back")
    assert "hold.refrigerant" not in day.rules("pressure_hold")
    day.type(
        "leak_search",
        inside="nitrogen",
        places={"discharge": {"label": "discharge elbow", "reach": "open", "eyes": "hit", "bubbles": "hit"}},
    )
    day.close("leak_search", "found")
    day.act("a2", kind="lost", mass="1 oz", empties=True, reason="with the nitrogen")
    assert day.inside == "empty"
    assert day.claim("emptied").standing == "shown"
    day.leave("recover", "found empty")
    day.at("09:30").type("repair", **REPAIR, parts={"p1": {"label": "discharge elbow", "kind": "line", "failed_by": "vibration"}})
    day.close("repair")
    day.at("10:20").type("pressure_hold", **hold(clock("09:45"), (clock("10:00"), 212), (clock("10:20"), 212), volume="5 L"))
    assert day.word("pressure_hold") == "Holds"
    assert day.claim("tight").standing == "shown"
    assert "would not have shown" in day.claim("tight").words.show()
    assert day.blind_for(3)
    day.close("pressure_hold")
    readings = ((clock("10:40"), 640), (clock("11:00"), 320), (clock("11:05"), 320), (clock("11:15"), 400))
    plan = [note.show() for note in day.found.step("evacuate").picture.notes]  # type: ignore[union-attr]
    assert any("wash the coil" in note and "does not harm the pull" in note for note in plan)
    day.at("11:15").type(
        "evacuate",
        **pulled(
            ("pump", clock("10:25")), ("isolated", clock("11:05")), readings=readings, place="manifold", path_proven=True, volume="5 L"
        ),
    )
    assert day.word("evacuate") == "Holds"
    assert "its way proven open" in day.told("evacuate", "vacuum.place")
    assert abs(day.allowed() - 18.0) < 0.1
    day.close("evacuate")
    day.at("11:20").type("weigh_in", system_state="empty", draws={"d1": draw("14", "25 lb 12 oz")})
    assert day.mark() == "21 lb 5.0 oz"
    day.type("weigh_in", draws={"d1": {"gross_end": "21 lb 5 oz"}})
    assert day.inside.startswith("4 lb 7.0 oz")
    day.close("weigh_in")
    readings_now = {
        "suction_pressure": "121 psig",
        "suction_line": "58.7 °F",
        "liquid_pressure": "240 psig",
        "supply": "54 °F",
        "amps": "6.9 A",
    }
    day.at("11:45").type("verify", mode="cooling", **READY, readings={"r1": readings_now})
    assert day.claim("runs").standing == "not_yet"
    superheat = day.found.step("verify").figure("superheat")
    assert superheat is not None
    assert abs(superheat.amount.value * 1.8 - 19.0) < 0.3
    assert day.found.step("verify").figure("subcooling") is None
    day.close("verify", "no clamp for the liquid line", "M. Orrin")
    assert day.claims == "S S S S S S A"
    assert day.close_out("proven_by_weight", "no clamp for the liquid line").startswith("4 lb 7.0 oz")


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
    assert day.reads("as_found", superheat=1.5, subcooling=58.0)
    assert day.causes()[0] == "overcharge"
    assert set(day.causes()[1:3]) == {"condenser_air", "non_condensables"}
    assert day.rules("as_found")["as_found.near_cut_out"] == "Open"
    day.close("as_found", "far over")
    day.leave("leak_search", "too much, not too little")
    day.at("09:30").type("recover", **RECOVER, cylinders={"c1": out("R-1", "27 lb", "37 lb 2 oz")}, **ended())
    assert "135.0 % came out" in day.told("recover", "recover.share")
    of_plate = day.found.step("recover").figure("plate_share")
    assert of_plate is not None
    assert abs(of_plate.amount.value - 1.266) < 0.001
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
    pressures = {"suction_pressure": "112 psig", "liquid_pressure": "246 psig", "supply": "52 °F"}
    day.at("11:15").type("verify", mode="cooling", **READY, readings={"r1": pressures})
    assert day.word("verify") == "Open"  # two pressures and no temperature prove nothing
    assert (day.claim("runs").standing, len(day.found.step("verify").missing) > 0) == ("not_yet", True)
    first = {
        "suction_pressure": "112 psig",
        "liquid_pressure": "246 psig",
        "suction_line": "50 °F",
        "liquid_line": "76.3 °F",
        "outdoor": "75 °F",
        "supply": "52 °F",
    }
    day.at("11:20").type("verify", mode="cooling", **READY, readings={"r1": first})
    assert day.reads("verify", superheat=14.4, subcooling=5.4)
    assert day.rules("verify")["verify.which_circuit"] == "Wait"
    assert "Add 8.0 oz" in day.told("verify", "verify.which_circuit")
    assert "trim.step" not in day.rules("verify")  # never two amounts at once
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
    assert day.reads("verify", subcooling=11.0)
    assert not {"trim.cap", "trim.step"} & set(day.rules("verify"))
    assert not day.found.step("verify").questions
    day.close("verify")
    assert day.claims == "S S S A A S S"
    assert day.close_out("proven").startswith("8 lb 0.0 oz")


def test_4_bakery_bench_cooler_topped_up_then_done_properly() -> None:
    plate = {**SITE, "refrigerant": "R-404A", "kind": "reach_in", "metering": "txv", "factory_charge": "1 lb 12 oz", "listed": True}
    day = Day("08:00")
    day.type("identify", **plate)
    day.close("identify")
    day.type("as_found", running="cycling", suction_pressure="5 psig", suction_swing="25 psig", liquid_pressure="150 psig")
    assert "switch it off" in day.told("as_found", "as_found.cycling")
    assert "undercharge" in day.causes()
    assert any("looks the same" in note.show() for note in day.found.step("as_found").picture.notes)  # type: ignore[union-attr]
    assert day.found.step("as_found").figure("condensing") is None
    day.at("09:00").type("weigh_in", draws={"d1": draw("14", "20 lb", "19 lb 6 oz")})
    assert day.inside == "not known, at least 10.0 oz"
    day.at("09:20").type(
        "leak_search", inside="refrigerant", places={"service": {"label": "suction service valve", "reach": "open", "bubbles": "hit"}}
    )
    day.end("running_not_proven", "parts ordered", "a valve and a drier")
    assert day.claims == "S – N C – N N"
    assert day.found.standing.short_again is None
    assert "10.0 oz were added; how fast it loses them is not known." in day.for_the_customer()
    day.come_back("08:00", 7)
    day.close("as_found", "seen on the first visit")
    day.type("recover", **RECOVER, cylinders={"c1": out("R-7", "25 lb", "26 lb 1 oz", water="26.2 lb")}, **ended(waited="5 min"))
    assert day.inside == "empty"
    assert day.told("recover", "recover.share").startswith("At least 7.0 oz")
    assert "25.0 % of 1 lb 12.0 oz, were in it before 10.0 oz went on top" in day.told("recover", "recover.share")
    day.close("recover", "61 % of it")
    day.at("09:00", 7).type(
        "repair",
        **{**REPAIR, "bulb": "placed"},
        parts={"p1": {"label": "service valve", "kind": "valve", "failed_by": "corrosion"}, "p2": {"label": "drier", "kind": "drier"}},
    )
    day.close("repair")
    day.close("pressure_hold", "brazed blind, unit cannot be reached again")
    solenoids = "valves and solenoids open, energised or by magnet"
    assert solenoids in [m.label for m in day.found.step("evacuate").missing]  # asked before the pull
    readings = ((clock("10:00", 7), 410), (clock("10:10", 7), 455))
    day.at("10:10", 7).type(
        "evacuate", **pulled(("pump", clock("09:20", 7)), ("isolated", clock("10:00", 7)), readings=readings), volume="3 L"
    )
    assert day.word("evacuate") == "Holds", day.found.step("evacuate").verdict
    assert solenoids not in [m.label for m in day.found.step("evacuate").missing]
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
    assert "Condensing is 29.0 °F over the air" in day.told("verify", "verify.over_air")
    assert "Evaporating is 30.0 °F under the box" in day.told("verify", "verify.under_box")
    assert not {"trim.step", "trim.cap"} & set(day.rules("verify"))  # still pulling down is no reason to take charge out
    assert (day.claim("tight").standing, [e.step for e in day.claim("tight").shows]) == ("answered_for", ["evacuate"])
    assert day.claims == "S S S A S S S"
    assert day.close_out("proven_by_weight").startswith("1 lb 12.0 oz")
