/**
 * Hobrak's own silhouettes. Each is drawn in a box of 100 × 100 that is stretched
 * to the true size of the thing; x runs right, y down, as the thing hangs.
 * tone "dark" is steel or ink, "wood" a handle or body of wood, "light" a body
 * of sheet metal, plastic or paper. Outlines are meant to be told apart at a
 * few millimetres on screen, so each kind has one feature drawn large.
 */
export type Tone = "dark" | "wood" | "light";

export interface Stroke {
  d: string;
  tone: Tone;
}

export interface Glyph {
  /** tall glyphs are turned on their side when the thing lies wider than high. */
  tall: boolean;
  strokes: Stroke[];
}

const rect = (x: number, y: number, w: number, h: number, r = 0) =>
  r === 0
    ? `M${x} ${y}h${w}v${h}h${-w}z`
    : `M${x + r} ${y}h${w - 2 * r}q${r} 0 ${r} ${r}v${h - 2 * r}q0 ${r} ${-r} ${r}h${-(w - 2 * r)}q${-r} 0 ${-r} ${-r}v${-(h - 2 * r)}q0 ${-r} ${r} ${-r}z`;
const disc = (x: number, y: number, rx: number, ry = rx) => `M${x - rx} ${y}a${rx} ${ry} 0 1 0 ${2 * rx} 0a${rx} ${ry} 0 1 0 ${-2 * rx} 0z`;

const dark = (d: string): Stroke => ({ d, tone: "dark" });
const wood = (d: string): Stroke => ({ d, tone: "wood" });
const light = (d: string): Stroke => ({ d, tone: "light" });
const tall = (...strokes: Stroke[]): Glyph => ({ tall: true, strokes });
const any = (...strokes: Stroke[]): Glyph => ({ tall: false, strokes });

export const glyphs: Record<string, Glyph> = {
  // A plane on end, seen from above: toe up, knob, mouth, lever cap and tote.
  plane: tall(
    dark("M14 6Q14 0 50 0Q86 0 86 6V92Q86 100 50 100Q14 100 14 92z"),
    wood(disc(50, 17, 22, 8)),
    light("M22 34h56l-8 30h-40z"),
    wood("M40 68h20v20q0 8-10 8t-10-8z"),
  ),
  spokeshave: any(
    wood("M0 40q12-22 30-8h40q18-14 30 8q-8 26-26 14H26Q8 66 0 40z"),
    dark(rect(32, 30, 36, 46, 4)),
    light(rect(42, 44, 16, 16, 3)),
  ),
  saw: tall(wood("M8 4Q30-4 66 2L96 22Q80 34 52 31L20 30Q2 22 8 4zM30 10L34 22H62L56 10z"), dark("M14 30L90 24L64 98L34 100z")),
  chisel: tall(wood("M22 0Q50-5 78 0L70 36Q50 42 30 36z"), light(rect(32, 37, 36, 6)), dark("M36 43h28l6 52-4 5H34l-4-5z")),
  gouge: tall(wood("M24 0Q50-6 76 0Q88 18 66 40H34Q12 18 24 0z"), dark("M40 40h20l4 40q10 8 0 20q-14-8-28 0q-10-12 0-20z")),
  knife: tall(wood("M26 0h48q6 24-4 52H30Q20 24 26 0z"), dark("M30 52h40v20Q64 92 34 100z")),
  mallet: tall(wood("M2 8Q50-6 98 8V42H2z"), wood("M40 42h20l4 54q-14 8-28 0z")),
  hammer: tall(dark("M0 4h58Q84 2 100 16Q82 14 66 20H0z"), wood("M40 20h18l3 76q-12 6-24 0z")),
  square: tall(wood("M0 0h18v100H0z"), dark("M18 84H100V100H18zM18 0h6v84h-6z")),
  rule: tall(
    light(rect(0, 0, 100, 100)),
    dark("M50 4h50v2H50zM66 20h34v2H66zM50 36h50v2H50zM66 52h34v2H66zM50 68h50v2H50zM66 84h34v2H66z"),
  ),
  gauge: tall(wood(rect(40, 0, 20, 100, 4)), wood(rect(0, 40, 100, 24, 6)), dark("M52 4h10v5H52z")),
  calliper: tall(
    dark("M46 0h8v16Q96 22 92 64Q90 86 60 100L56 92Q78 80 78 60Q78 34 50 30Q22 34 22 60Q22 80 44 92L40 100Q10 86 8 64Q4 22 46 16z"),
    light(disc(50, 10, 12, 6)),
  ),
  file: tall(
    wood("M26 0h48l-8 30H34z"),
    dark("M38 30h24l6 62q-18 16-36 0z"),
    light("M40 46h20v2H40zM40 58h21v2H40zM39 70h22v2H39zM39 82h23v2H39z"),
  ),
  brace: tall(
    light(disc(30, 5, 26, 5)),
    dark("M26 8h8v18H78v34H36v24h-8V52H70V34H26z"),
    wood(rect(62, 34, 24, 18, 6)),
    dark("M22 84h20l-6 16h-8z"),
  ),
  drill: tall(light("M4 4h72l20 12v14L74 36H58L50 80H18L24 36H4z"), dark("M88 14h12v18H88zM14 80h44v18H10z")),
  sander: any(light("M18 10Q50-6 84 10V56H18z"), dark(rect(6, 56, 88, 20, 4)), dark(rect(0, 82, 100, 12)), light(disc(50, 32, 14, 11))),
  router: tall(
    light(rect(24, 0, 52, 56, 8)),
    wood(disc(12, 58, 12, 9)),
    wood(disc(88, 58, 12, 9)),
    dark(rect(20, 52, 60, 14)),
    dark(rect(4, 88, 92, 9)),
    dark("M22 66h8v22h-8zM70 66h8v22h-8zM44 66h12v30H44z"),
  ),
  jigsaw: any(
    light("M4 10Q60-8 96 14V40H70Q64 24 40 26Q26 30 30 52H96V74H14Q-4 50 4 10z"),
    dark(rect(10, 78, 90, 8)),
    dark("M22 86h8v14h-8z"),
  ),
  charger: any(dark(rect(0, 26, 100, 74, 8)), light(rect(12, 0, 54, 40, 4)), light(rect(74, 60, 14, 12))),
  battery: any(dark(rect(8, 20, 84, 80, 8)), light("M20 0h60v22H20z"), light(rect(20, 56, 60, 10))),
  "f-clamp": tall(dark("M40 0h18v100H40zM0 0h58v9H0zM4 56h54v12H4zM6 9h10v6H6z"), dark("M8 68h8v12H8z"), wood(rect(0, 78, 24, 22, 6))),
  "bar-clamp": tall(dark("M36 0h28v100H36zM0 2h64v11H0zM0 66h64v14H0z"), light("M10 80h8v14h-8zM0 92h30v6H0z")),
  "cam-clamp": tall(
    dark(rect(44, 0, 14, 100)),
    wood(rect(0, 4, 58, 15, 4)),
    wood(rect(0, 52, 58, 17, 4)),
    dark("M6 60Q10 92 30 98L22 66z"),
  ),
  "spool-clamp": tall(wood(disc(50, 12, 48, 11)), dark(rect(42, 22, 16, 58)), wood(disc(50, 62, 40, 8)), dark(rect(26, 84, 48, 12, 3))),
  "spring-clamp": tall(
    dark("M10 0q20-4 28 6L54 50L40 60L24 54zM90 0q-20-4-28 6L46 50L60 60L76 54z"),
    light(disc(50, 50, 12, 8)),
    dark("M40 56L14 98H30L50 66L70 98H86L60 56z"),
  ),
  strap: tall(light("M20 0h60v100H20zM36 10v80h28V10z"), dark(rect(10, 36, 80, 16, 3))),
  mould: tall(
    wood(
      "M50 0Q86 0 86 22Q86 36 72 44Q66 50 76 58Q100 66 96 84Q88 100 50 100Q12 100 4 84Q0 66 24 58Q34 50 28 44Q14 36 14 22Q14 0 50 0zM50 22Q36 22 36 34Q42 50 32 68Q28 82 50 82Q72 82 68 68Q58 50 64 34Q64 22 50 22z",
    ),
  ),
  template: tall(light("M10 0H60Q96 16 90 52Q86 84 60 100H14Q34 52 10 0zM42 12a7 6 0 1 0 .1 0z")),
  violin: tall(
    wood("M44 0h12v34Q84 34 84 50Q84 58 76 64Q96 72 92 88Q84 100 50 100Q16 100 8 88Q4 72 24 64Q16 58 16 50Q16 34 44 34z"),
    dark("M47 6h6v52h-6zM34 62h4q4 10-2 18h-4q4-8 2-18zM62 62h4q-2 10 2 18h-4q-6-8-2-18zM40 82h20v4H40z"),
  ),
  jig: any(wood(rect(0, 0, 100, 100)), dark("M12 10h8v80h-8zM30 20h58v6H30zM30 74h58v6H30z"), light(disc(66, 50, 12, 12))),
  blade: any(
    dark("M50 0a50 50 0 1 0 .1 0zM50 12a38 38 0 1 1-.1 0z"),
    dark("M50 22a28 28 0 1 0 .1 0zM50 30a20 20 0 1 1-.1 0z"),
    light(rect(42, 0, 16, 22, 3)),
  ),
  hose: any(
    light("M50 0a50 50 0 1 0 .1 0zM50 16a34 34 0 1 1-.1 0z"),
    dark("M50 24a26 26 0 1 0 .1 0zM50 32a18 18 0 1 1-.1 0zM80 70L100 92L92 100L74 80z"),
  ),
  rope: any(
    wood("M50 0a50 50 0 1 0 .1 0zM50 26a24 24 0 1 1-.1 0z"),
    dark("M20 30l14 6-3 4-14-6zM66 74l14 10-4 3-14-10zM74 18l-8 12-4-3 8-12z"),
  ),
  roll: any(
    light(rect(0, 8, 100, 84, 2)),
    wood(rect(0, 40, 100, 20)),
    dark(rect(0, 8, 3, 84)),
    dark(rect(97, 8, 3, 84)),
    dark(rect(30, 8, 1.5, 84)),
    dark(rect(66, 8, 1.5, 84)),
  ),
  stone: any(light(rect(0, 10, 100, 90, 3)), dark(rect(0, 62, 100, 38, 3))),
  grinder: any(light(disc(32, 42, 32, 42)), dark(disc(32, 42, 9, 12)), dark("M40 56H96V100H10V86H40z"), light(rect(66, 34, 30, 24, 4))),
  vice: any(dark("M0 30h38v30H0zM46 20h22v44H46zM38 40h50v10H38z"), dark("M10 60h70v22H10z"), light("M84 24h5v44h-5z")),
  iron: tall(light("M22 8Q50-4 78 8V60H22z"), dark("M30 8Q50 2 70 8V14H30z"), dark(rect(10, 60, 80, 12)), light(rect(16, 72, 68, 28, 4))),
  tin: any(light(rect(4, 8, 92, 92, 4)), dark("M0 2h100v10H0z"), wood(rect(4, 36, 92, 36))),
  bottle: tall(
    light("M38 12h24v14Q92 32 92 46V94Q92 100 84 100H16Q8 100 8 94V46Q8 32 38 26z"),
    dark(rect(35, 0, 30, 14, 3)),
    wood(rect(8, 54, 84, 30)),
  ),
  pot: any(light("M6 20h88l-8 80H14z"), dark("M0 10h100v12H0zM44 0h12v10H44z")),
  box: any(wood(rect(0, 14, 100, 86, 3)), light("M0 0h100v20H0z"), dark(rect(38, 12, 24, 16, 3))),
  board: any(wood(rect(0, 0, 100, 100))),
  sheet: any(wood(rect(0, 0, 100, 100))),
  offcut: tall(wood("M10 0L90 6V100H10z")),
  oar: any(wood("M0 44h66Q72 20 86 20Q100 24 100 50T86 80Q72 80 66 56H0z")),
  vacuum: tall(
    dark("M8 16Q50-12 92 16V30H8z"),
    light("M8 32h84v50H8z"),
    dark("M2 82h96v8H2z"),
    dark(disc(22, 94, 10, 6)),
    dark(disc(78, 94, 10, 6)),
  ),
  broom: tall(wood("M46 0h8v80h-8z"), dark("M20 78h60v6H20z"), light("M16 84h68l10 16H6z")),
  stool: tall(wood("M6 0h88v10H6z"), dark("M14 10h10L14 100H2zM76 10h10l12 90H86z"), dark("M14 44h72v7H14zM8 74h84v7H8z")),
  muffs: tall(
    dark("M14 54V40Q14 0 50 0T86 40V54H76V40Q76 12 50 12T24 40V54z"),
    light(rect(2, 46, 30, 54, 12)),
    light(rect(68, 46, 30, 54, 12)),
  ),
  apron: tall(light("M28 0h8q2 18 14 18T64 0h8l4 26Q96 34 96 44V100H4V44Q4 34 24 26z"), dark("M30 52h40v24H30zM34 56v16h32V56z")),
  pliers: tall(dark("M36 0h12v26Q58 30 52 40L30 100H16L34 40Q28 30 36 26zM64 0H52v26Q42 30 48 40L70 100H84L66 40Q72 30 64 26z")),
  book: tall(light(rect(8, 0, 92, 100, 3)), wood(rect(0, 0, 16, 100, 3)), dark(rect(30, 20, 50, 6)), dark(rect(30, 34, 36, 5))),
  mask: any(light("M10 30Q50-10 90 30Q96 80 50 100Q4 80 10 30z"), dark("M38 56h24v10H38zM0 34h12v6H0zM88 34h12v6H88z")),
};

/** aliases are kinds that look like another one. */
export const aliases: Record<string, string> = {
  "parallel-clamp": "bar-clamp",
  "pipe-clamp": "bar-clamp",
  "hand-screw": "cam-clamp",
  "circular-saw": "jigsaw",
};

/** glyphOf a kind; what has none of its own is drawn as a box. */
export function glyphOf(kind: string): Glyph {
  return glyphs[aliases[kind] ?? kind] ?? (glyphs.box as Glyph);
}
