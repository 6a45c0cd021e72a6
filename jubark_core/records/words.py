"""Fixed lists of words in records, and how each word is shown."""

STAGES = ("seedling", "sapling", "young", "mature", "veteran", "resprout", "clipped")
SETTINGS = (
    "woodland",
    "hedgerow",
    "floodplain",
    "wet_flat",
    "dry_slope",
    "poor_rocky_soil",
    "coastal",
    "street",
    "park",
    "garden",
    "hedge",
    "made_ground",
    "disturbed",
    "glasshouse",
    "unknown",
)
ORIGINS = ("wild", "planted", "unknown")
LIGHTS = ("sun", "shade", "unknown")
SEXES = ("male", "female", "unknown")
SEEN = ("plant", "litter", "neighbour", "told", "stored")
BARK_HEIGHTS = ("base", "breast", "upper", "limb")
SHOOTS = ("normal", "vigorous", "spur", "epicormic")
CERTAINTIES = ("sure", "likely", "unsure")
RANKS = ("family", "genus", "section", "group", "species", "variety", "hybrid", "cultivar")

PLANT_FORMS = ("tree", "group", "vacant")  # vacant: a place where one may be planted
HOW_TAKEN = ("tapped", "typed", "bearing", "satellite", "surveyed", "imported")
MODES = ("field", "desk", "bulk", "import")
METHODS = ("estimated", "paced", "taped", "instrument")
UNITS_ENTERED = ("cm", "in", "m", "ft", "%", "/cm")
ANGLE_UNITS = ("degrees", "percent", "topo")
SEVERAL_STEMS = ("squares", "squares_then_mean", "largest_plus_half")
# Where schools differ on the place of the tape (jubark_core/size/where.toml).
FORK_BY = ("pith", "crotch")
LOW_FORK = ("above_fork", "narrowest_below")
SLOPE_FROM = ("uphill", "average")
SWELLING = ("above", "below")
LIMBS_AS = ("own_stems", "shoots_of_one")
BREAST_HEIGHTS_M = (1.30, 1.37, 1.40, 1.50)  # 1.37 is 4.5 ft, 1.3716 m by definition

CONDITIONS = ("good", "fair", "poor", "very_poor", "dead", "not_seen")
CONDITION_SCALES = ("words", "five_points", "percent")
BASE_VISIBLE = ("all_round", "partly", "not_visible")
CROWN_VISIBLE = ("whole", "partly", "not_visible")
FLARE = ("seen", "buried", "not_seen")
CROWN_CLASSES = ("open_grown", "dominant", "codominant", "intermediate", "overtopped", "not_seen")
CROWN_LIGHT = ("full", "part", "shade", "not_seen")
# A veteran by two scales; no sum is made of them (jubark_core/condition/veteran.py).
VITALITY = ("full", "retrenching", "reduced", "remnant", "dead_standing")
STABILITY = ("stable", "monitor", "prop_reduce_or_move", "collapse_likely", "has_fallen")
VETERAN_NEEDS = ("no_action", "monitor", "plan_in_5_years", "plan_in_1_year", "protect_people_now")
SIDES = ("n", "ne", "e", "se", "s", "sw", "w", "nw", "all_round")
LEANS = ("corrected", "recent", "not_known")
OVER_TARGET = ("over_target", "clear_of_targets")
PARTS = ("roots", "base", "trunk", "limb", "twig", "leaf", "crown")

# Matrices of ISA Best Management Practices: Tree Risk Assessment (2011; 2nd edition 2017), from memory.
FAILURE = ("improbable", "possible", "probable", "imminent")
IMPACT = ("very_low", "low", "medium", "high")
CONSEQUENCE = ("negligible", "minor", "significant", "severe")
RATINGS = ("low", "moderate", "high", "extreme")
# Offered for a row of the worksheet; any other words can be written.
RISK_PARTS = (
    "dead limb",
    "live limb",
    "hanger",
    "top",
    "union",
    "stem",
    "whole tree",
    "roots and base",
)
RISK_TARGETS = (
    "road",
    "footpath",
    "building",
    "parked vehicles",
    "playground or seat",
    "garden",
    "wires",
)
OCCUPANCY = ("rare", "occasional", "frequent", "constant")
MOVABLE = ("target", "access", "both", "neither")
KEPT_OUT = ("done", "not_possible")
LEVELS = ("limited_visual", "basic")  # what a visit can do; tests with instruments are for an assessor

LIFE_STATES = ("alive", "standing_dead", "fallen", "stump", "resprout", "removed", "not_found")
TAG_STATES = ("set", "lost", "retired", "second")

# What a tree's file holds besides (jubark_core/records/file.py); a site switches on what it keeps.
SECTIONS = (
    "inspection",
    "status",
    "constraint",
    "place",
    "planting",
    "habitat",
    "climber",
    "headroom",
    "works",
    "hardware",
    "photo_point",
    "enquiry",
    "incident",
    "sample",
)
OWNERS = ("own", "neighbour", "shared", "road_authority", "other_public_body", "not_known")
WORTHS = ("high", "usual", "low")
CONSTRAINTS = ("preservation_order", "conservation_area", "heritage", "permit_needed", "covenant", "other")
SURFACES = ("open_soil", "mulch", "grass", "grate", "gravel", "paved")
SOILS = ("sand", "loam", "clay", "peat", "made_ground", "not_known")
DRAINAGE = ("free", "slow", "waterlogged", "not_known")
HABITATS = (
    "trunk_cavity",
    "limb_cavity",
    "base_cavity",
    "water_filled_hollow",
    "woodpecker_hole",
    "loose_bark",
    "dead_wood_in_the_crown",
    "dead_wood_on_the_ground",
    "sap_run",
    "fungi",
    "ivy_or_moss",
    "nest",
    "roost",
)
# Over or beside what a crown stays clear (jubark_core/work/headroom.toml).
WAYS = ("path", "cycle_way", "road", "sign_lamp_or_signal", "sight_triangle")
GROUND_WORKS = (
    *("building", "demolition", "trench", "excavation", "level_change", "paving"),
    "storage_or_access",
)
STORMS = ("wind", "ice", "wet_snow")
CLIMBER_REACH = ("base", "trunk", "crown")
IN_USE = ("in_use", "not_in_use", "not_known")
HARDWARE = ("cable", "brace", "rod", "prop", "lightning_protection", "guard_or_tie")
HARDWARE_STATES = ("sound", "loose", "ingrown", "broken", "not_seen")
FAILURES = ("limb_failed", "top_failed", "stem_failed", "uprooted", "hit_by_a_vehicle", "vandalised", "fire")
HARM = ("none", "property", "injury", "not_known")

STOCK = ("bare_root", "root_balled", "container", "cell_grown", "cutting_or_set", "natural_seedling")
SUPPORT = ("none", "one_stake", "two_or_more_stakes", "guy_lines", "underground_anchor")
TIES = ("sound", "too_tight", "loose", "broken", "taken_off")
ENQUIRIES = (
    "shade_or_view",
    "leaves_or_fruit",
    "roots_or_damage",
    "wires_or_lamp",
    "fear_of_failure",
    "wish_to_work_on_it",
    "request_for_a_tree",
    "other",
)

# Inspections (jubark_core/inspection): each level takes in the one before.
INSPECTION_LEVELS = ("limited_visual", "basic", "advanced")
DAYLIGHT = ("full", "dull", "dusk", "dark")
LEAF_STATES = ("in_leaf", "partly", "out_of_leaf")
TARGET_KINDS = (
    "road",
    "path",
    "playground",
    "seat_or_shelter",
    "building",
    "parking",
    "line",
    "railway",
    "garden",
    "open_ground",
)

# After a storm (jubark_core/records/inspected.py).
UNDER_IT = ("wires", "line_near", "person", "neither")
LIES = ("standing", "hung_up", "fallen")
BLOCKS = ("road", "path", "building", "nothing")
STORM_NEXT = ("clear_now", "clear_later", "assessor", "nothing")

# Signs and symptoms, and what is held to cause them (jubark_core/signs).
SIGN_EXTENTS = ("one", "few", "some", "many")
SIGN_PLACES = (
    "base",
    "trunk",
    "limbs",
    "upper_crown",
    "lower_crown",
    "inner_crown",
    "twig_tips",
    "whole",
    "one_side",
    "one_limb",
    "root_flare",
    "soil",
    "twig",
    "leaf",
    "fruit",
    "roots",
)
SIGN_SINCE = ("this_year", "last_year", "older", "unknown")
INSECT_STAGES = ("egg", "larva", "pupa", "adult")
VERDICTS = ("cause", "normal", "nothing_wrong", "unknown")
STANDINGS = ("suspicion", "probable", "confirmed", "ruled_out")
CONFIRMED_BY = ("laboratory", "officer")

# Work (jubark_core/work).
WORK_STEPS = (
    *("accepted", "changed", "refused", "planned", "started", "stopped", "completed", "withdrawn"),
    "flagged",
)
EQUIPMENT = ("ground", "climb", "lift", "mechanised")
# C2: up to version 6, for nests and roosts in one; it is closed by nothing any more.
WORK_CHECKS = ("C1", "C2", "C2a", "C2b", "C3", "C4", "C4b", "C5", "C6", "C7", "C8", "C9")
SKILLS = (
    *(
        "felling",
        "chainsaw",
        "climbing",
        "rescue",
        "lift_operation",
        "machine_operation",
        "pesticide_application",
    ),
    *("line_clearance", "tree_inspection", "tree_assessment", "traffic_control", "roost_look"),
    *("wildlife_biology", "bat_ecology", "fauna_check", "bird_ecology", "emergency_lead"),
    *("approved_contractor", "insurance"),
)
# Check -> the kinds of evidence that can close it.
EVIDENCE: dict[str, tuple[str, ...]] = {
    "C1": ("second_person", "not_known_protected"),
    "C2a": ("nest_look",),
    "C2b": ("hollow_look", "roost_look", "roost_assessment"),
    "C3": ("look_up", "permission", "notice", "exemption"),
    "C4": ("line_look", "isolation", "standing_authorisation", "line_clear"),
    "C4b": ("services_located",),
    "C5": ("owner_look_up", "agreement", "right"),
    "C6": ("officer_permission",),
    "C7": ("applicator", "assessor_agrees"),
    "C8": ("closure_plan", "cordon"),
    "C9": ("climb_finding", "names_given"),
}
# What was said up to version 6: it stays to be read, and closes nothing; but the operator's word ends what
# wires hold.
CLEARED_BEFORE = (
    *("name", "nests", "roosts", "consent", "operator", "services", "owner", "route", "authorised"),
    "assessor",
)
CLEARED = (*(kind for kinds in EVIDENCE.values() for kind in kinds), *CLEARED_BEFORE)
FOUND = ("none", "in_use", "feature", "hidden_parts", "line", "applies", "own", "not_own")
# What can be said of a whole block, a street or a list of trees at once.
WIDE_EVIDENCE = (
    *("look_up", "permission", "notice", "line_look", "isolation", "standing_authorisation"),
    *("services_located", "owner_look_up", "agreement", "right", "closure_plan"),
)
ANSWERED = ("water", "bees", "neighbours")
DANGERS = ("on_record", "seen_here", "ordered")

UNITS = ("metric", "us_customary")
REGIONS = ("us", "uk", "au")
BIOSECURITY = ("clean", "suspect", "infested")
COMPETENCES = ("licence", "qualification", "training")
HARDINESS_ZONES = tuple(f"{zone}{half}" for zone in range(1, 14) for half in "ab")
PROTECTION_STANDARDS = ("bs5837", "as4970", "foot_per_inch", "foot_and_half_per_inch")
SURVEY_STEPS = ("where", "name", "diameter", "height", "crown", "condition", "signs", "file", "notes")

_SHOWN = {
    "second_person": "a second person",
    "not_known_protected": "not known to be protected",
    "nest_look": "look for nests",
    "hollow_look": "look into the hollow",
    "roost_look": "look for what could hold a roost",
    "roost_assessment": "assessment of roosts",
    "look_up": "look-up of consent",
    "line_look": "look for lines",
    "isolation": "isolation by the operator",
    "owner_look_up": "look-up of the owner",
    "right": "right of one's own",
    "officer_permission": "the officer's permission",
    "applicator": "licensed applicator",
    "assessor_agrees": "an assessor agrees",
    "closure_plan": "plan or closure",
    "cordon": "the crew's own cordon",
    "climb_finding": "finding that it can be climbed",
    "names_given": "names of the contractor's people",
    "not_own": "not the site's own",
    "above_fork": "1.07 m above the fork",
    "narrowest_below": "the narrowest place below the fork",
    "average": "the average of the slope",
    "uphill": "the uphill side",
    "crotch": "where the bark parts, the crotch",
    "pith": "where the piths meet",
    "own_stems": "each a stem of its own",
    "shoots_of_one": "one plant with several shoots",
    "all_round": "all round",
    "as4970": "12 × diameter, 2 to 15 m (AS 4970)",
    "bs5837": "12 × diameter, at most 15 m (BS 5837)",
    "status": "ownership",
    "constraint": "legal constraint",
    "place": "growing place",
    "clipped": "clipped (hedge, topiary)",
    "five_points": "five points",
    "foot_and_half_per_inch": "1.5 ft for each inch of diameter",
    "foot_per_inch": "1 ft for each inch of diameter",
    "instrument": "by instrument",
    "hung_up": "hung up in another",
    "operator": "the operator's permit",
    "line_clear": "the operator: line removed or repaired, clear of the tree",
    "line_near": "a line near it",
    "few": "few (2 to 5)",
    "some": "some (6 to 20)",
    "many": "many (more)",
    "C1": "name",
    "C2": "nests and roosts",
    "C3": "consent",
    "C4": "utilities",
    "C5": "owner and boundary",
    "C6": "wood under a hold",
    "C7": "method authorised",
    "climb": "climbing",
    "ground": "from the ground",
    "lift": "from a lift",
    "cause": "a cause",
    "normal": "normal for the season",
    "officer": "a plant health officer",
    "assessor": "an assessor looks at it",
    "photo_point": "photo point",
    "vacant": "vacant planting site",
    "line": "line (power, telephone)",
    "dead_standing": "dead, standing",
    "estimated": "by eye",
    "has_fallen": "fallen, living or dead",
    "n": "N",
    "ne": "NE",
    "e": "E",
    "se": "SE",
    "s": "S",
    "sw": "SW",
    "w": "W",
    "nw": "NW",
    "prop_reduce_or_move": "prop, reduce, or move the target",
    "reduced": "reduced (under half of it lives)",
    "remnant": "remnant (a few live strips)",
    "retrenching": "retrenching (live lower crown)",
    "taped": "by tape",
    "largest_plus_half": "largest plus half the rest",
    "open_grown": "open-grown",
    "topo": "topographic scale (per 66 ft)",
    "percent": "per cent",
    "resprout": "resprout (cut back)",
    "squares": "root of the sum of squares",
    "squares_then_mean": "root of the sum of squares; over five stems from their mean",
    "uk": "United Kingdom",
    "us": "United States",
    "au": "Australia",
    "us_customary": "US customary",
}


def shown_word(word: str) -> str:
    """A word of a fixed list as a reader sees it."""
    return _SHOWN.get(word, word.replace("_", " "))
