// Written by web/generated_test.go; do not edit.
export const SYSTEMS = {
  "metric": {
    "name": "metric",
    "length": {
      "symbol": "m",
      "si": 1
    },
    "small": {
      "symbol": "mm",
      "si": 0.001
    },
    "side": {
      "symbol": "cm",
      "si": 0.01
    },
    "mass": {
      "symbol": "kg",
      "si": 1
    },
    "volume": {
      "symbol": "L",
      "si": 1
    },
    "speed": {
      "symbol": "m/s",
      "si": 1
    },
    "way": {
      "symbol": "km",
      "si": 1000
    },
    "strap": {
      "symbol": "daN",
      "si": 10
    },
    "torque": {
      "symbol": "N·m",
      "si": 1
    },
    "pressure": {
      "symbol": "bar",
      "si": 100000
    },
    "decimals": 0
  },
  "us": {
    "name": "us",
    "length": {
      "symbol": "ft",
      "si": 0.3048
    },
    "small": {
      "symbol": "in",
      "si": 0.0254
    },
    "side": {
      "symbol": "in",
      "si": 0.0254
    },
    "mass": {
      "symbol": "lb",
      "si": 0.45359237
    },
    "volume": {
      "symbol": "gal",
      "si": 3.785411784
    },
    "speed": {
      "symbol": "mph",
      "si": 0.44704
    },
    "way": {
      "symbol": "mi",
      "si": 1609.344
    },
    "strap": {
      "symbol": "lbf",
      "si": 4.4482216152605
    },
    "torque": {
      "symbol": "lbf·ft",
      "si": 1.3558179483314003
    },
    "pressure": {
      "symbol": "psi",
      "si": 6894.757293168362
    },
    "decimals": 2
  }
} as const;
