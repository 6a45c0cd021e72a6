"""Fixed word lists of the flora's files: what shows when, how often, and how common a taxon is."""

REACHES = ("litter", "low_branch", "trunk", "crown")
TOOLS = ("eye", "hand_lens", "knife", "binoculars", "ruler", "tape")
SEASONS = ("winter", "summer")
KINDS = ("one", "many", "count", "measure")
VISIBLE = (
    "always",
    "leaf_on",
    "leaf_flush",
    "bud_set",
    "leaf_fall",
    "autumn_colour",
    "winter_cold",
    "catkins_formed",
    "flowering",
    "fruit_forming",
    "fruit_ripe",
    "fruit_hanging",
    "litter",
)
SEX_SYSTEMS = ("both", "separate", "mixed")

# How often a state shows, in words, and as weights.
FREQUENCY = {"always": 0.97, "usually": 0.80, "sometimes": 0.15, "rarely": 0.03}
UNNAMED_STATE, MOST_UNNAMED = 0.01, 0.2
# Chance that a look names a wrong state, and how much of the usual confusions is left.
SLIP = {"sure": 0.02, "likely": 0.06, "unsure": 0.25}
CONFUSED = {"sure": 0.3, "likely": 1.0, "unsure": 2.0}
STRIKING_SLIP = 0.1  # nobody invents what strikes the eye: a slip to such a state is ten times rarer
# Relative weight of a class of commonness, wild and planted on one scale: shares of stands (about
# 1 : 0.25 : 0.03 : 0.004) to the power 0.7, because people ask about what they do not know
# (common practice).
COMMONNESS = {"abundant": 1.0, "common": 0.35, "occasional": 0.10, "rare": 0.02, "absent": 0.0005}
# Who plants a taxon at all: sold by the trade, kept in collections only, or never planted.
TRADES = ("commerce", "collections", "never")
MEMORY = "memory"  # where a value comes from that nobody has read against a work yet
POISON = ("deadly", "serious", "mild")
HARMED = ("people", "horses", "cattle", "sheep", "dogs")
