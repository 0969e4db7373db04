"""Where sheets send people, and how long engines take. Common practice of the trade."""

#: An engine warms up, and cools down again, without load so long, s.
WARM_S = 180.0
AT_PANEL, AT_INLET, IN_HOUSE = "at the panel", "at the inlet", "in the house"
AT_METER = "on the panel’s or the switch’s meter; an open panel is an electrician’s work"
OUTDOORS = "outdoors, far from openings"
CAR_OUTDOORS = "It stands outdoors, far from openings; the carbon-monoxide alarm in the house is on"
