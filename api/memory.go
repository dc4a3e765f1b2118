package api

// SoftMemory is from when on the program collects garbage more often, in bytes, unless
// GOMEMLIMIT says another: what it holds for long is a tenth of it, and its most is to stay
// under 600 MB.
const SoftMemory = 420 << 20
