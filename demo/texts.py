"""The alt texts of the demo pictures. One is missing on purpose, for the page check to find."""

ALT_TEXTS = {
    "a-lock-fills": "A boat rises in a lock chamber, seen from the side, as the water comes up to the upper level",
    "aqueduct": "The stone aqueduct seen from the meadow below: four tall arches, with hills beyond them",
    "canal-at-dawn": "The canal at sunrise, mist over the water and the towpath running along the left bank",
    "drained-lock": "Three volunteers in orange jackets stand in the mud at the bottom of a drained lock",
    "lock-chamber": "Looking along a brick lock chamber towards its closed gates, a ladder on the right",
    "lock-cottage": "The lock-keeper's cottage: pale stone, two windows, a green door, and a path down to the water",
    "lock-gates": "Closed lock gates with white-tipped balance beams; water leaks through in three places",
    "map-of-the-canal": "Map of the canal: it winds from west to east past fourteen locks, with four places to park",
    "narrowboat-moored": "A red narrowboat with six round windows moored against a grassy bank",
    "reeds-and-water": "Tall reeds with brown heads in front of open water",
    "stone-bridge": "A stone bridge whose arch and its reflection in the canal make a full circle",
    "towpath-in-autumn": "The towpath curving beside the canal under trees in orange and yellow leaf",
    "towpath-in-summer": "A broad gravel towpath beside the canal, with a large leafy tree on the left",
    "two-boats-passing": "A blue and a green narrowboat, one behind the other, on a still canal in autumn",
    "lock-filling": "A boat rises in a lock chamber as it fills from the upper level",
    "plan-of-a-lock": "Plan of a lock: upper level, top gates, chamber with a boat, bottom gates, lower level",
    "winter-ice": "Plates of ice on the canal and frost on the bank beside the towpath",
}
