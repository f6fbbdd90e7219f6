"""Two vehicles: cans and ounces by another hand, and a system that stood open for days."""

from tests.whole_jobs.day import READY, SITE, Day, clock, draw, hold, pulled


def test_17_shuttle_van_three_cans_and_seven_ounces() -> None:
    """Vehicle, R-134a, 1,225 g ± 25 g: a hold nobody tested with bubbles, a compound gauge, and a can short at the end of the first visit."""
    day = Day("09:00")
    plate = {
        **SITE,
        "refrigerant": "R-134a",
        "kind": "vehicle",
        "metering": "orifice",
        "orifice": "as fitted",
        "factory_charge": "1225 g",
        "tolerance": "25 g",
    }
    day.type("identify", **plate)
    day.close("identify")
    day.type("as_found", running="off", standing_pressure="0 psig", standing_cold="75 °F")
    day.close("as_found")
    day.leave("leak_search", "nothing to find it with")
    day.leave("recover", "nothing was in it")
    day.type(
        "repair",
        opened_for="10 min",
        joining="none",
        drier="none_by_maker",
        cores=True,
        orifice="as fitted",
        parts={"p1": {"label": "port cores", "kind": "valve", "failed_by": "unknown"}},
    )
    day.close("repair", "cause not known")
    assert day.claim("mended").standing == "answered_for"
    nothing = hold(clock("10:00"), (clock("10:00"), 90), (clock("11:00"), 90), bubbles="no", gauge_step="2 psi", volume="5 L")
    nothing = {**nothing, "regulator": None, "from_low": True}  # out of a new recovery cylinder's own filling
    day.at("11:00").type("pressure_hold", **{**nothing, "stamps": {"s1": {"label": "high side", "pressure": "400 psig"}}})
    assert (day.word("pressure_hold"), day.rules("pressure_hold")["hold.from_low"]) == ("Holds", "Open")
    day.type("pressure_hold", from_low=None, regulator=False)
    assert day.rules("pressure_hold")["hold.regulator"] in {"Stop", "Open"}  # a Stop while it is planned, a line of the record once done
    day.type("pressure_hold", from_low=True, regulator=None)
    assert day.claim("tight").standing == "not_yet"
    assert "No bubbles or detector at the joints." in day.claim("tight").words.show()
    assert day.blind_for(10)
    day.close("pressure_hold", "no bubbles at hand")
    day.at("11:40").type("evacuate", **pulled(("pump", clock("11:05")), readings=((clock("11:40"), 12300),)), compound_only=True)
    assert day.claim("dry").standing == "not_yet"
    assert not day.found.step("evacuate").problems  # a figure of a compound gauge is not refused; it proves nothing
    assert day.rules("evacuate")["vacuum.compound"] == "Wait"
    day.close("evacuate", "only a compound gauge")
    cans = {f"d{n}": {"cylinder": f"can {n}", "label_net": "12 oz"} for n in (1, 2, 3)}
    day.at("11:45").type("weigh_in", system_state="empty", scale_step="0.1 oz", draws=cans)
    assert "7.2 oz short. One more like the last would do" in day.told("weigh_in", "weigh_in.short")
    assert day.rules("weigh_in")["weigh_in.label"] == "Open"
    for n in (1, 2, 3):
        day.at(f"12:{n}0").type("weigh_in", draws={f"d{n}": {"gross_start": "16.0 oz", "gross_end": "4.0 oz"}})
    assert day.inside.startswith("2 lb 4.0 oz")
    assert day.claim("charged").standing == "not_yet"
    day.at("12:40").type(
        "verify",
        mode="cooling",
        **READY,
        readings={"r1": {"outdoor": "80 °F", "supply": "50 °F", "suction_pressure": "33 psig", "liquid_pressure": "150 psig"}},
    )
    assert (day.rules("verify")["verify.vehicle_head"], day.rules("verify")["verify.vehicle_suction"]) == ("Holds", "Holds")
    assert "proven_by_weight" not in day.ways()
    day.end("running_not_proven", "a can short", "a fourth can")
    assert day.claims == "S S A A A C S"
    assert "The vents blow 50.0 °F" in day.claim("runs").words.show()
    assert "7.2 oz short of 2 lb 11.2 oz" in day.claim("charged").words.show()
    day.come_back("09:00", 7)
    day.type("weigh_in", draws={"d4": {"cylinder": "can 4", "label_net": "12 oz", "gross_start": "16.0 oz", "gross_end": "8.8 oz"}})
    assert day.inside.startswith("2 lb 11.2 oz")
    assert day.claims == "S S A A A S N"
    assert "after the last reading" in day.claim("runs").words.show()
    assert day.close_out("proven_by_weight").startswith("2 lb 11.2 oz")
    told = day.found.standing.words.show()
    assert all(name in told for name in ("Mended:", "Tight:", "Dry:"))


def test_8_hybrid_van_after_body_work() -> None:
    """Vehicle, R-1234yf, 900 g ± 20 g by the maker's data: open on arrival, fitted with new seals, tested and weighed."""
    day = Day("08:00")
    plate = {
        **SITE,
        "refrigerant": "R-1234yf",
        "kind": "vehicle",
        "metering": "txv",
        "factory_charge": {"text": "900 g", "source": "note"},
        "tolerance": "20 g",
        "listed": True,
        "electric": True,
    }
    day.type("identify", **plate)
    day.close("identify")
    day.type("as_found", running="off", standing_pressure="0 psig", standing_cold="75 °F")
    day.close("as_found")
    day.type("leak_search", inside="empty", places={"lines": {"label": "the open lines", "reach": "open", "eyes": "hit"}})
    day.close("leak_search", "the lines were off for body work")
    day.leave("recover", "open on arrival")
    day.type(
        "repair",
        opened_for="240 h",
        joining="flared",
        drier="none_by_maker",
        cores=True,
        bulb="none",
        parts={"p1": {"label": "new seals on the lines", "kind": "line", "failed_by": "workmanship"}},
    )
    oil = {"oil_out": "measured", "oil_removed": "5 mL", "oil_dye": "5 mL"}
    assert day.type("repair", **oil, oil_grade="PAG 46").verdict.word == "Wait"
    assert "read it there before PAG 46 goes in" in day.told("repair", "repair.oil_kind")
    assert "0 mL (0.0 oz) of" in day.told("repair", "repair.oil")  # 5 mL lost, and the dye brings 5 mL
    day.type("repair", oil_grade="POE 68", oil_named=True, oil_added="5 mL")
    assert day.rules("repair")["repair.oil_kind"] == "Holds"
    assert (
        day.told("repair", "repair.oil_added")
        == "10 mL (0.3 oz) of oil went in, where 5 mL (0.2 oz) belong: 5 mL (0.2 oz) too much. The dye is counted."
    )
    day.answer("repair")
    day.close("repair")
    day.at("10:00").type("pressure_hold", **hold(clock("09:15"), (clock("09:30"), 200.0), (clock("09:45"), 199.9), volume="5 L"))
    assert day.word("pressure_hold") == "Holds"
    assert (day.claim("tight").standing, day.claim("mended").standing) == ("shown", "shown")
    assert day.blind_for(4)
    day.close("pressure_hold")
    readings = ((clock("10:20"), 3000), (clock("10:30"), 900), (clock("10:50"), 400), (clock("11:00"), 480))
    day.at("11:00").type(
        "evacuate",
        **pulled(
            ("sweep", clock("10:01")),
            ("pump", clock("10:10")),
            ("isolated", clock("10:50")),
            readings=readings,
            method="sweep",
            volume="5 L",
        ),
    )
    assert day.word("evacuate") == "Holds"
    day.close("evacuate")
    day.at("11:05").type("weigh_in", system_state="empty", scale_step="2 g", draws={"d1": draw("yf", "6412 g", tare="3000 g")})
    day.type("weigh_in", draws={"d1": {"gross_end": "5512 g"}})
    assert day.word("weigh_in") == "Holds"
    day.close("weigh_in")
    day.at("11:20").type(
        "verify", mode="cooling", **{**READY, "run_in": "12 min"}, readings={"r1": {"outdoor": "80 °F", "supply": "47 °F"}}
    )
    day.close("verify")
    assert day.claims == "S S S S S S S"
    assert "proven" not in day.ways()
    assert day.close_out("proven_by_weight").startswith("1 lb 15.7 oz")
