"""Fixed word lists of the flora's files: what shows when, how often, and how common a taxon is."""

REACHES = ("litter", "low_branch", "trunk", "crown")
TOOLS = ("eye", "hand_lens", "knife", "binoculars", "ruler", "tape")
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
SEX_SYSTEMS = ("both", "separate", "mixed")

# How often a state shows, in words, and as weights.
FREQUENCY = {"always": 0.97, "usually": 0.80, "sometimes": 0.15, "rarely": 0.03}
UNNAMED_STATE = 0.01
# Chance that a look names a wrong state.
SLIP = {"sure": 0.02, "likely": 0.10, "unsure": 0.30}
COMMONNESS = {"abundant": 1.0, "common": 0.4, "occasional": 0.1, "rare": 0.02, "absent": 0.0005}
