/** Writing of lengths, times and weights the way the shop's units ask for. Everything on screen that is a figure is written here. */
export type Units = "metric" | "imperial";

const square = { foot: 0.09290304, inch: 0.00064516 };
const kg = { lb: 0.45359237, oz: 0.028349523125 };

// A thin space between thousands, and before decimals what the shop is written with.
let mark = ".";

/** writeWithComma sets a comma before decimals instead of a point. */
export function writeWithComma(comma: boolean): void {
  mark = comma ? "," : ".";
}

const plain = new Map<string, Intl.NumberFormat>();

/** figure writes a number with at most so many decimals; with at least as many as are asked for. */
export function figure(x: number, decimals = 0, least = 0): string {
  const key = `${decimals} ${least}`;
  let format = plain.get(key);
  if (!format) plain.set(key, (format = new Intl.NumberFormat("en", { maximumFractionDigits: decimals, minimumFractionDigits: least })));
  const text = format.format(x).replaceAll(",", "\u2009");
  return (/^-0(\.0*)?$/.test(text) ? text.slice(1) : text).replace(".", mark);
}

/** fixed writes a number with just so many decimals, for figures below each other. */
export const fixed = (x: number, decimals: number): string => figure(x, decimals, decimals);

/** percent writes a share of 1. */
export const percent = (share: number, decimals = 0): string => `${figure(100 * share, decimals, decimals)} %`;

/** length writes millimetres: "1 200" or 3' 11 1/4", with the stroke that makes a fraction of it. */
export function length(mm: number, units: Units): string {
  return units === "metric" ? figure(mm) : feetAndInches(mm, "\u2044");
}

/** typedLength is a length as one types it: what a field begins with. */
export function typedLength(mm: number, units: Units): string {
  return units === "metric" ? String(Math.round(mm)) : feetAndInches(mm, "/");
}

function feetAndInches(mm: number, stroke: string): string {
  const sign = mm < 0 ? "-" : "";
  const sixteenths = Math.round((Math.abs(mm) / 25.4) * 16);
  const feet = Math.floor(sixteenths / 192);
  const inches = Math.floor((sixteenths % 192) / 16);
  let num = sixteenths % 16;
  let den = 16;
  while (num > 0 && num % 2 === 0) {
    num /= 2;
    den /= 2;
  }
  const parts: string[] = [];
  if (feet > 0) parts.push(`${feet}'`);
  if (inches > 0 && num > 0) parts.push(`${inches} ${num}${stroke}${den}"`);
  else if (inches > 0) parts.push(`${inches}"`);
  else if (num > 0) parts.push(`${num}${stroke}${den}"`);
  return parts.length > 0 ? sign + parts.join(" ") : '0"';
}

/** size writes w × h × d with the unit where it needs one. */
export function size(dims: number[], units: Units): string {
  return dims.map((d) => length(d, units)).join(" × ") + (units === "metric" ? " mm" : "");
}

/** distance writes a length with its unit. */
export const distance = (mm: number, units: Units): string => length(mm, units) + (units === "metric" ? " mm" : "");

export function weight(kilos: number, units: Units): string {
  if (units === "metric") return kilos < 1 ? `${figure(kilos * 1000)} g` : `${figure(kilos, 1)} kg`;
  const oz = Math.round(kilos / kg.oz);
  return oz < 16 ? `${oz} oz` : `${figure(oz / 16, 1)} lb`;
}

/** seconds writes a short time: "19 s", "4 min 05 s" or "1 h 12 min". */
export function seconds(s: number): string {
  const n = Math.round(s);
  if (n < 100) return `${figure(s, s < 10 ? 1 : 0)} s`;
  if (n < 3600 * 3) return `${Math.floor(n / 60)} min ${String(n % 60).padStart(2, "0")} s`;
  return `${figure(Math.floor(n / 3600))} h ${String(Math.floor((n % 3600) / 60)).padStart(2, "0")} min`;
}

/** uses says how often something is fetched. */
export function uses(perWeek: number): string {
  if (perWeek >= 1) return `${figure(perWeek, 1)} × a week`;
  if (perWeek * 52 >= 12) return `${figure((perWeek * 52) / 12, 1)} × a month`;
  if (perWeek > 0) return `${figure(perWeek * 52)} × a year`;
  return "never";
}

/** squares writes square metres in the units of the shop. */
export function squares(m2: number, units: Units, decimals = 1): string {
  return units === "metric" ? `${fixed(m2, decimals)} m²` : `${figure(m2 / square.foot, m2 < 0.1 ? 1 : 0)} sq ft`;
}

/** patch writes a small area, as of the front of a tool. */
export function patch(m2: number, units: Units): string {
  return units === "metric" ? `${figure(m2 * 1e4)} cm²` : `${figure(m2 / square.inch)} sq in`;
}

/** metres writes a length told in metres: a rail, or a way on foot. */
export function metres(m: number, units: Units, decimals = 1): string {
  return units === "imperial" ? `${figure(m / 0.3048)} ft` : `${fixed(m, decimals)} m`;
}

/** litres writes what something holds or fills. */
export function litres(l: number, units: Units): string {
  if (units === "imperial") return `${figure(l / 28.316846592, l < 283 ? 1 : 0)} cu ft`;
  return l >= 1000 ? volume(l / 1000, units) : `${figure(l)} l`;
}

/** load writes what is carried of what may be. */
export function load(kilos: number, capacity: number, units: Units): string {
  const [own, unit] = units === "metric" ? [1, "kg"] : [kg.lb, "lb"];
  return capacity > 0 ? `${fixed(kilos / own, 1)} of ${figure(capacity / own)} ${unit}` : `${fixed(kilos / own, 1)} ${unit}, not rated`;
}

/** volume writes cubic metres. */
export function volume(m3: number, units: Units): string {
  return units === "metric" ? `${fixed(m3, 1)} m³` : `${figure(m3 / 0.028316846592)} cu ft`;
}

/** megabytes writes the size of a file. */
export const megabytes = (bytes: number): string => `${fixed(Math.max(0.1, bytes / 1e6), 1)} MB`;

/** degrees writes an angle. */
export const degrees = (angle: number): string => `${fixed(angle, 1)}°`;

/** day writes a date as people do. */
export const day = (date: string): string =>
  new Date(`${date}T12:00`).toLocaleDateString(undefined, { day: "numeric", month: "short", year: "numeric" });
