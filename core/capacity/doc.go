// Package capacity works out what the plate of a small boat would say, where she
// has none: 33 CFR 183 subparts C (loading) and D (power), written from memory;
// check the current text. It covers monohulls under 20 ft that are no sailing
// boats, inflatables or personal watercraft; for others it says so. The
// builder's plate comes first wherever there is one.
//
// The rule speaks of pounds and feet; quantities here are SI (kilograms, metres)
// and are converted inside.
package capacity
