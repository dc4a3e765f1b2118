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
    "decimals": 2
  }
} as const;
