// Written by web/generated_test.go; do not edit.
export const GEAR_GROUPS = ["Name and owner","Size and mass","Care","Use","Safety equipment","Batteries and charging","A box: what it holds","Dates, serial number, cost"] as const;
export const GEAR_FIELDS = [
  {
    "key": "name",
    "label": "Name",
    "kind": "text",
    "group": "Name and owner",
    "needed": true
  },
  {
    "key": "nickname",
    "label": "Also called",
    "kind": "text",
    "group": "Name and owner"
  },
  {
    "key": "count",
    "label": "How many",
    "hint": "kept together",
    "kind": "count",
    "group": "Name and owner",
    "needed": true
  },
  {
    "key": "size_m[0]",
    "label": "Length, stowed",
    "kind": "side",
    "group": "Size and mass",
    "needed": true
  },
  {
    "key": "size_m[1]",
    "label": "Breadth",
    "kind": "side",
    "group": "Size and mass",
    "needed": true
  },
  {
    "key": "size_m[2]",
    "label": "Height",
    "kind": "side",
    "group": "Size and mass",
    "needed": true
  },
  {
    "key": "kg",
    "label": "Mass of one",
    "kind": "mass",
    "group": "Size and mass",
    "needed": true
  },
  {
    "key": "mass_known",
    "label": "Source of the mass",
    "kind": "choice",
    "group": "Size and mass",
    "list": "mass_known",
    "needed": true
  },
  {
    "key": "owner_id",
    "label": "Owner",
    "kind": "member",
    "group": "Name and owner",
    "none": "the crew"
  },
  {
    "key": "tags",
    "label": "Tags",
    "hint": "with commas",
    "kind": "tags",
    "group": "Name and owner"
  },
  {
    "key": "shape",
    "label": "Shape",
    "kind": "choice",
    "group": "Size and mass",
    "list": "shapes"
  },
  {
    "key": "turn",
    "label": "Turning",
    "kind": "choice",
    "group": "Size and mass",
    "list": "turns",
    "needed": true
  },
  {
    "key": "needs_dry",
    "label": "must stay dry",
    "kind": "flag",
    "group": "Care"
  },
  {
    "key": "fragile",
    "label": "fragile",
    "kind": "flag",
    "group": "Care"
  },
  {
    "key": "metal",
    "label": "metal",
    "kind": "flag",
    "group": "Care"
  },
  {
    "key": "buoyant",
    "label": "floats",
    "kind": "flag",
    "group": "Care"
  },
  {
    "key": "hazards",
    "label": "Hazards",
    "kind": "choices",
    "group": "Care",
    "list": "hazards"
  },
  {
    "key": "use_size_m[0]",
    "label": "Length in use",
    "hint": "0: as stowed",
    "kind": "side",
    "group": "Use"
  },
  {
    "key": "use_size_m[1]",
    "label": "Breadth in use",
    "hint": "0: as stowed",
    "kind": "side",
    "group": "Use"
  },
  {
    "key": "use_size_m[2]",
    "label": "Height in use",
    "hint": "0: as stowed",
    "kind": "side",
    "group": "Use"
  },
  {
    "key": "inside_m[0]",
    "label": "Length inside",
    "hint": "0: no box",
    "kind": "side",
    "group": "A box: what it holds"
  },
  {
    "key": "inside_m[1]",
    "label": "Breadth inside",
    "hint": "0: no box",
    "kind": "side",
    "group": "A box: what it holds"
  },
  {
    "key": "inside_m[2]",
    "label": "Height inside",
    "hint": "0: no box",
    "kind": "side",
    "group": "A box: what it holds"
  },
  {
    "key": "holds_kg",
    "label": "Holds at most",
    "hint": "0: no limit",
    "kind": "mass",
    "group": "A box: what it holds"
  },
  {
    "key": "keeps_dry",
    "label": "keeps dry what it holds",
    "kind": "flag",
    "group": "A box: what it holds"
  },
  {
    "key": "restock_at",
    "label": "Buy more at",
    "hint": "0: not used up",
    "kind": "count",
    "group": "Use"
  },
  {
    "key": "condition",
    "label": "Condition",
    "kind": "choice",
    "group": "Care",
    "list": "conditions"
  },
  {
    "key": "expires_on",
    "label": "Last good day",
    "kind": "day",
    "group": "Dates, serial number, cost"
  },
  {
    "key": "serial",
    "label": "Serial number",
    "kind": "text",
    "group": "Dates, serial number, cost"
  },
  {
    "key": "cost",
    "label": "Cost",
    "kind": "number",
    "group": "Dates, serial number, cost"
  },
  {
    "key": "spares_for",
    "label": "Spare for",
    "kind": "piece",
    "group": "Dates, serial number, cost"
  },
  {
    "key": "uses_per_day",
    "label": "Fetched",
    "hint": "times a day",
    "kind": "number",
    "group": "Use"
  },
  {
    "key": "used_from",
    "label": "Used at",
    "hint": "a post; empty: anywhere",
    "kind": "post",
    "group": "Use"
  },
  {
    "key": "brought",
    "label": "brought to the post, and stowed again",
    "kind": "flag",
    "group": "Use"
  },
  {
    "key": "guide_m",
    "label": "Height of a rod's largest guide",
    "hint": "0: as usual",
    "kind": "side",
    "group": "Size and mass"
  },
  {
    "key": "safety_class",
    "label": "As safety equipment",
    "kind": "choice",
    "group": "Safety equipment",
    "list": "safety_classes",
    "none": "none"
  },
  {
    "key": "safety_also",
    "label": "Serves instead as",
    "hint": "one job at a time",
    "kind": "choices",
    "group": "Safety equipment",
    "list": "safety_classes"
  },
  {
    "key": "fits_low_kg",
    "label": "Fits bodies from",
    "hint": "0: not said",
    "kind": "mass",
    "group": "Safety equipment"
  },
  {
    "key": "fits_high_kg",
    "label": "Fits bodies to",
    "hint": "0: not said",
    "kind": "mass",
    "group": "Safety equipment"
  },
  {
    "key": "worn_by",
    "label": "Worn by",
    "kind": "member",
    "group": "Safety equipment",
    "none": "anyone"
  },
  {
    "key": "registration",
    "label": "Registered as",
    "kind": "text",
    "group": "Safety equipment"
  },
  {
    "key": "chemistry",
    "label": "Chemistry",
    "kind": "choice",
    "group": "Batteries and charging",
    "list": "chemistries",
    "none": "no battery"
  },
  {
    "key": "volts",
    "label": "Volts",
    "hint": "12, 24",
    "kind": "number",
    "group": "Batteries and charging"
  },
  {
    "key": "amp_hours",
    "label": "Ampere-hours",
    "hint": "as new",
    "kind": "number",
    "group": "Batteries and charging"
  },
  {
    "key": "cranking_a",
    "label": "Cold-cranking amperes",
    "hint": "0: not said",
    "kind": "number",
    "group": "Batteries and charging"
  },
  {
    "key": "in_use_since",
    "label": "In use since",
    "kind": "day",
    "group": "Batteries and charging"
  },
  {
    "key": "charged_by",
    "label": "Charged before a day with",
    "kind": "choice",
    "group": "Batteries and charging",
    "list": "charged_by",
    "none": "nothing"
  },
  {
    "key": "charges",
    "label": "As a charger, it charges",
    "kind": "choice",
    "group": "Batteries and charging",
    "list": "charged_by",
    "none": "nothing"
  },
  {
    "key": "sockets",
    "label": "So many at once",
    "kind": "count",
    "group": "Batteries and charging"
  }
] as const;
