"""What can hurt, said the same wherever it is said: one set of texts for surveys, remedies, routes, fit-up.

Usual shop practice; where local codes or a licence are wanted, those go before. A caution that only one
set-up or one operation has stands with it.
"""

LOCK_OUT = "Lock out power."
LOCK_OUT_TAPER = "Lock out power before fingers go into a taper."
LOCK_OUT_FEED = "Lock out power before hands go near chuck or feed."
LOCK_OUT_CARRIAGE = "Lock out power; move the carriage by hand."
LOCK_OUT_CHUCK = "Lock out power; a chuck is heavy: a board under it."
TURN_BY_HAND = "Turn by hand, never under power."
UNDER_POWER = "Under power: guard shut, chuck key out, sleeves and hair tied."
SLING = "Heavy: sling it; never a hand under it."
LEVER = "Levering a machine: a bar at the foot, blocks under the bed, never a hand under it."
APRON = "An apron is heavy when its last screw comes out: block it from below."
KNEE = "A knee is heavy: block it, do not trust its screw."
BLOCKS_LAST = "Never under it: timber blocks before the screw is touched, taken out last."
LONG_EDGE = "A long straightedge is heavy and bends: carry it by two."
DOVETAIL = "A dovetail's edge cuts."
SCRAPERS = "Scrapers are knives: cut away from the other hand."
THIN_WORK = "Thin work springs out of a vice: clamp it along its whole length, never hold it by hand."
WHEEL = "Grinding: wheel rung and guarded, eyes covered; keep the grit off the ways."
PRESS = "Press: a shield round it, the load straight, nobody in line with it. A bar that snaps flies."
HOT_BEARINGS = "Hot bearings burn: oven or induction heater, 110 °C at most, dry gloves; never a flame."
HOT_METAL = "Hot metal burns: dry gloves, nothing flammable near."
SPRING = "The return spring is under load: hold the cap."
CHUCK_KEY = "Chuck key out before the hand leaves it, and before the switch."
CLOTH = "Cloth away from turning work; a short abrasive strip, hands far back, ways covered."
SHIM_STOCK = "Shim stock cuts: gloves on, edges away."
STICK_OUT = "Stick-out short, speed low."
STOP_BAR = "Stop before the bar meets the chuck: mark its travel."
SOLVENT = "Solvent: open a door, wear gloves; no flame."
ADHESIVE = "Two-part adhesive: gloves, open door, the sheet's own cautions."
RETAINING = "Retaining compound: gloves and good air, no flame; its data sheet."
LAPPING = "Lapping compound: keep it off the ways; gloves and good air with the solvent that washes it out."
MILLING = "Milling: cutter stopped before chips are brushed; a brush, never a finger; work clamped, not held."
DRILLING = "Drilling: work clamped or against a stop; it grabs as it breaks through. Eyes covered."
DRIFT = "A drift that slips takes skin: support the hub in a V, eyes covered."
LEAD_PAINT = (
    "Old paint may hold lead: have it tested before it is scraped, sanded or burnt; wet, no dust, no flame, "
    "by local codes."
)
RUST_REMOVER = "Rust remover: its data sheet, gloves, eyes covered; never two together; rinsed, dried, oiled."
SPRINGS = "Springs and spring pins fly: eyes covered, a cloth over the hole, let them go slowly."
PLATING = "Hard-chrome plating is for licensed shops only."
FOUNDRY = (
    "Molten metal: dry mould and dry tools or it explodes; zinc in brass fumes: outdoors or extraction, and "
    "a respirator for it; face shield, leather on hands, shins and feet; sand floor, not concrete; nobody "
    "alone. Where local codes want a licence or it is new to you, have a foundry pour it."
)
HARDENING = (
    "Fire: face shield, leather gloves, tongs; oil flares, so a lid and no water near it; the data "
    "sheet of the "
    "steel and of the quench."
)
BRAZING = (
    "Brazing and welding: fume (flux, zinc, cadmium in old solders and plating) wants extraction; a "
    "fire watch "
    "for half an hour after; never on a closed cavity, it bursts: drill it. What carries load or lifts is a "
    "licensed welder's."
)
ASBESTOS = (
    "Old linings may be asbestos: do not scrape, blow, brush or grind them. Wet, bagged, tested; "
    "licensed removal "
    "where local codes say so."
)
