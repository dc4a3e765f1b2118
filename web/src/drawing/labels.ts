import type { Pixel } from "./projection";

// Names on a drawing that never collide, and never hide what they name.
//
// The method is the greedy one of Christensen, Marks and Shieber (An empirical
// study of algorithms for point-feature label placement, 1995): each name has
// candidate positions ranked by what they cost, and takes the cheapest that is
// free; those with the least room choose first. A name that finds no room within
// what it names stands beside it on a leader line, as on an engineering drawing.

export type Box = { x: number; y: number; width: number; height: number };

/** A name that wants a position. */
export type Wanted = {
  key: string;
  text: string;
  /** What it names. */
  box: Box;
  /** What lies within the box that the name must not hide. */
  within?: Box[];
  /** It may stand beside the box, on a leader line; otherwise it stands within or not at all. */
  leader?: boolean;
};

/** Where a name stands: its block of lines, turned to read upward in a tall box. */
export type Placed = Box & { key: string; lines: string[]; turned: boolean; leader?: [Pixel, Pixel] };

/** What names keep clear of. */
export type Sheet = {
  bounds: Box;
  /** Marks that nothing may cover, such as people. */
  marks: Box[];
  /** What a name beside its box may not cover, such as lockers. */
  solids: Box[];
  /** Lines that no name may stand on, such as the hull's. */
  strokes: Pixel[][];
  /** Size of the letters, pixels. */
  size: number;
};

const GAP = 3; // pixels between a name and what it must not touch
const STEP: Pixel = [8, 7]; // pixels between candidates beside the box
const CROSSING = 60; // pixels of leader that a crossing of two leaders is worth
const SECOND_LINE = 8; // pixels of leader that a second line is worth

/** Gives each name the cheapest free position; names for which there is none are left out. */
export function placeLabels(wanted: Wanted[], sheet: Sheet): Placed[] {
  const placed: Placed[] = [];
  const leaders = wanted.filter((w) => w.leader);
  const others = wanted.filter((w) => !w.leader);
  for (const w of [...bySize(leaders), ...bySize(others)]) {
    const found = inside(w, sheet, placed) ?? (w.leader ? beside(w, sheet, placed) : undefined);
    if (found) placed.push(found);
  }
  return placed;
}

/** Those with the least room first. */
function bySize(wanted: Wanted[]): Wanted[] {
  return [...wanted].sort((a, b) => a.box.width * a.box.height - b.box.width * b.box.height);
}

/** The first free corner, edge or middle of the box in which the whole name has room. */
function inside(w: Wanted, sheet: Sheet, placed: Placed[]): Placed | undefined {
  const others = sheet.solids.filter((b) => !holds(b, w.box));
  const avoid = [...sheet.marks.filter((m) => !same(m, w.box)), ...placed, ...others, ...(w.within ?? [])];
  const legs = placed.flatMap((p) => (p.leader ? [p.leader] : []));
  for (const block of blocksOf(w.text, sheet.size, 3)) {
    const spareX = w.box.width - block.width - 2 * GAP;
    const spareY = w.box.height - block.height - 2 * GAP;
    if (spareX < 0 || spareY < 0) continue;
    for (const [fx, fy] of CORNERS) {
      const at = { ...block, x: w.box.x + GAP + fx * spareX, y: w.box.y + GAP + fy * spareY };
      if (!avoid.some((b) => meet(at, b, 1)) && !legs.some((l) => cuts(l, at))) return { ...at, key: w.key };
    }
  }
}

/** Shares of the spare room to the left and above: the upper left first, as one reads. */
const CORNERS: Pixel[] = [
  [0, 0],
  [0.5, 0],
  [1, 0],
  [0, 0.5],
  [0.5, 0.5],
  [1, 0.5],
  [0, 1],
  [0.5, 1],
  [1, 1],
];

/** The cheapest free position beside the box: a short leader that crosses and covers as little as can be. */
function beside(w: Wanted, sheet: Sheet, placed: Placed[]): Placed | undefined {
  for (const reach of REACHES) {
    const found = within(w, around(w.box, reach, sheet.bounds), sheet, placed);
    if (found && found.cost <= reach) return found; // whatever is further away costs more
  }
}

/** How far around its box a name looks for a position, pixels: nearly all find one close by. */
const REACHES = [40, 100, 250, Number.POSITIVE_INFINITY];

function around(box: Box, reach: number, bounds: Box): Box {
  const x = Math.max(bounds.x, box.x - reach);
  const y = Math.max(bounds.y, box.y - reach);
  return {
    x,
    y,
    width: Math.min(bounds.x + bounds.width, box.x + box.width + reach) - x,
    height: Math.min(bounds.y + bounds.height, box.y + box.height + reach) - y,
  };
}

/** The cheapest free position within a part of the sheet. Short leaders are tried first, so that few need a look. */
function within(w: Wanted, part: Box, sheet: Sheet, placed: Placed[]): (Placed & { cost: number }) | undefined {
  const avoid = [...sheet.marks, ...placed, ...sheet.solids, w.box];
  const others = sheet.solids.filter((b) => !same(b, w.box));
  const marks = sheet.marks.filter((m) => !same(m, w.box));
  const legs = placed.flatMap((p) => (p.leader ? [p.leader] : []));
  let best: (Placed & { cost: number }) | undefined;
  let least = Number.POSITIVE_INFINITY;
  for (const { block, x, y, length } of candidates(w, part, sheet.size)) {
    if (length >= least) break;
    const at = { x, y, width: block.width, height: block.height };
    if (avoid.some((b) => meet(at, b, GAP))) continue;
    if (sheet.strokes.some((line) => onLine(line, at)) || legs.some((l) => cuts(l, at))) continue;
    const leader = leaderOf(at, w.box);
    if (placed.some((p) => cuts(leader, p)) || marks.some((m) => cuts(leader, m))) continue;
    const crossed = legs.filter((l) => cross(l, leader)).length * CROSSING;
    const cost = length + crossed + over(leader, others);
    if (cost >= least) continue;
    least = cost;
    best = { ...block, ...at, key: w.key, leader, cost };
  }
  return best;
}

/** A position of a name beside its box, and the least that it costs: the length of its leader. */
type Candidate = { block: Block; x: number; y: number; length: number };

/** The positions on a grid over a part of the sheet, those with the shortest leaders first. */
function candidates(w: Wanted, part: Box, size: number): Candidate[] {
  const found: Candidate[] = [];
  for (const block of blocksOf(w.text, size, 2).filter((b) => !b.turned)) {
    const extra = (block.lines.length - 1) * SECOND_LINE;
    for (let y = part.y; y + block.height <= part.y + part.height; y += STEP[1]) {
      for (let x = part.x; x + block.width <= part.x + part.width; x += STEP[0]) {
        const [from, to] = leaderOf({ x, y, width: block.width, height: block.height }, w.box);
        found.push({ block, x, y, length: Math.hypot(from[0] - to[0], from[1] - to[1]) + extra });
      }
    }
  }
  return found.sort((a, b) => a.length - b.length);
}

/** From the name's edge to a point a little within what it names. */
function leaderOf(at: Box, box: Box): [Pixel, Pixel] {
  const inset = Math.min(5, box.width / 2, box.height / 2);
  const to: Pixel = [
    clamp(at.x + at.width / 2, box.x + inset, box.x + box.width - inset),
    clamp(at.y + at.height / 2, box.y + inset, box.y + box.height - inset),
  ];
  const from: Pixel = [clamp(to[0], at.x, at.x + at.width), clamp(to[1], at.y, at.y + at.height)];
  return [from, to];
}

function clamp(v: number, least: number, most: number): number {
  return Math.min(Math.max(v, least), most);
}

type Block = { lines: string[]; width: number; height: number; turned: boolean };

/** The ways to write a name: in one line, in more, and in one turned to read upward. */
function blocksOf(text: string, size: number, most: number): Block[] {
  const blocks: Block[] = [];
  for (let n = 1; n <= most; n++) {
    const lines = inLines(text, n);
    if (lines.length === n)
      blocks.push({ lines, width: Math.max(...lines.map((l) => widthOf(l, size))), height: n * size, turned: false });
  }
  blocks.push({ lines: [text], width: size, height: widthOf(text, size), turned: true });
  return blocks;
}

/** A name in n lines that are as even as its spaces allow. */
function inLines(text: string, n: number): string[] {
  const words = text.split(" ");
  if (n === 1 || words.length < n) return [text];
  const lines: string[] = [];
  let rest = words;
  for (let left = n; left > 1; left--) {
    const share = rest.join(" ").length / left;
    let take = 1;
    while (take < rest.length - left + 1 && rest.slice(0, take + 1).join(" ").length <= share + 2) take++;
    lines.push(rest.slice(0, take).join(" "));
    rest = rest.slice(take);
  }
  return [...lines, rest.join(" ")];
}

let pen: CanvasRenderingContext2D | null | undefined;
const measured = new Map<string, number>(); // by face, size and text

/** The breadth of a line in the label face, as the browser will draw it. */
function widthOf(text: string, size: number): number {
  pen ??= document.createElement("canvas").getContext("2d");
  if (!pen) return text.length * size * 0.5;
  const key = `${document.fonts.status} ${size} ${text}`;
  const known = measured.get(key);
  if (known !== undefined) return known;
  pen.font = `600 ${size}px "Barlow Condensed", "Arial Narrow", sans-serif`;
  const width = pen.measureText(text).width + 1;
  measured.set(key, width);
  return width;
}

function same(a: Box, b: Box): boolean {
  return a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height;
}

function holds(a: Box, b: Box): boolean {
  return a.x <= b.x && a.y <= b.y && a.x + a.width >= b.x + b.width && a.y + a.height >= b.y + b.height;
}

function meet(a: Box, b: Box, gap: number): boolean {
  return (
    a.x < b.x + b.width + gap && b.x < a.x + a.width + gap && a.y < b.y + b.height + gap && b.y < a.y + a.height + gap
  );
}

/** Pixels of a leader that run over what it does not name. */
function over([a, b]: [Pixel, Pixel], boxes: Box[]): number {
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const steps = Math.ceil(length / 4);
  let hidden = 0;
  for (let i = 0; i < steps; i++) {
    const [x, y] = [a[0] + ((b[0] - a[0]) * i) / steps, a[1] + ((b[1] - a[1]) * i) / steps];
    if (boxes.some((q) => x > q.x && x < q.x + q.width && y > q.y && y < q.y + q.height)) hidden += 4;
  }
  return hidden;
}

function onLine(line: Pixel[], box: Box): boolean {
  const wide = grown(box, 2);
  return line.some((q, i) => i > 0 && cuts([line[i - 1] as Pixel, q], wide));
}

function grown(b: Box, by: number): Box {
  return { x: b.x - by, y: b.y - by, width: b.width + 2 * by, height: b.height + 2 * by };
}

/** Whether a line runs through a box (Liang and Barsky's clipping). */
function cuts([a, b]: [Pixel, Pixel], box: Box): boolean {
  const [right, bottom] = [box.x + box.width, box.y + box.height];
  if (Math.max(a[0], b[0]) < box.x || Math.min(a[0], b[0]) > right) return false;
  if (Math.max(a[1], b[1]) < box.y || Math.min(a[1], b[1]) > bottom) return false;
  let [enter, leave] = [0, 1];
  for (const axis of [0, 1] as const) {
    const run = b[axis] - a[axis];
    if (run === 0) continue; // the line is within the box on this axis, as was seen above
    const toLow = ((axis === 0 ? box.x : box.y) - a[axis]) / run;
    const toHigh = ((axis === 0 ? right : bottom) - a[axis]) / run;
    enter = Math.max(enter, Math.min(toLow, toHigh));
    leave = Math.min(leave, Math.max(toLow, toHigh));
  }
  return enter < leave;
}

function cross([a, b]: [Pixel, Pixel], [c, d]: [Pixel, Pixel]): boolean {
  const turn = (p: Pixel, q: Pixel, r: Pixel) => (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]);
  return turn(a, b, c) * turn(a, b, d) < 0 && turn(c, d, a) * turn(c, d, b) < 0;
}
