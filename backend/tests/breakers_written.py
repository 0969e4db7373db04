"""Breakers as people write them down."""

#: Forty-eight circuits as an electrician writes them down: the main panel, and one in the garage.
SCHEDULE = [
    "1 kitchen fridge 20A 12 AWG keep: refrigerator 140 W 1.3 kWh/day start 1100 W measured",
    "3 furnace 15A 14 AWG keep",
    "5 7 well pump 20A 2p 12 AWG 80 ft keep, 8 A at 240 V by plate",
    "9 hall lights 15A 14 keep",
    "11 router 15A 14 AWG keep: router and modem",
    "13 counter left 20A 12 gfci mwbc with 15",
    "15 counter right 20A 12 gfci",
    "17 freezer 15A 14 keep: chest freezer clamp 1.1 A",
    "2 4 range 50A 6 AWG",
    "6 8 water heater 30A 10 AWG",
    "10 12 dryer 30A 10 AWG",
    "14 16 garage feeder 60A 6 AWG feeds garage sub-panel",
    *(f"{space} bedroom outlets {space} 15A 14 AWG afci" for space in (*range(18, 36), 37, 39, 40, 41, 42)),
    *(f"{space} bench {space} 20A 12 AWG on garage sub-panel" for space in range(1, 11)),
    "11 13 compressor 20A on garage sub-panel, 9 A at 240 V by plate",
    "12 shop lights 15A on garage sub-panel 14 AWG: shop lights 60 W",
    "14 door 15A on garage sub-panel if room: garage door opener",
]
