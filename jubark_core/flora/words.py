"""Fixed word lists every room shares: stages, settings, certainties, ranks and the like."""

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
REACHES = ("litter", "low_branch", "trunk", "crown")
TOOLS = ("eye", "hand_lens", "knife", "binoculars", "ruler", "tape")
SEEN = ("plant", "litter", "neighbour", "told", "stored")
BARK_HEIGHTS = ("base", "breast", "upper", "limb")
SHOOTS = ("normal", "vigorous", "spur", "epicormic")
SEASONS = ("winter", "summer")
KINDS = ("one", "many", "count", "measure")
VISIBLE = (
    "always",
    "leaf_on",
    "bud_set",
    "leaf_fall",
    "autumn_colour",
    "catkins_formed",
    "flowering",
    "fruit_forming",
    "fruit_ripe",
    "fruit_hanging",
    "litter",
)
RANKS = ("family", "genus", "section", "group", "species", "variety", "hybrid", "cultivar")
SEX_SYSTEMS = ("both", "separate", "mixed")

# How often a state shows, in words, and as weights.
FREQUENCY = {"always": 0.97, "usually": 0.80, "sometimes": 0.15, "rarely": 0.03}
UNNAMED_STATE = 0.01
# Chance that a look names a wrong state.
SLIP = {"sure": 0.02, "likely": 0.10, "unsure": 0.30}
COMMONNESS = {"abundant": 1.0, "common": 0.4, "occasional": 0.1, "rare": 0.02, "absent": 0.0005}
