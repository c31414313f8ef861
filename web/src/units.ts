/** Writing of lengths, times and weights the way the shop's units ask for. */
export type Units = "metric" | "imperial";

/** length writes millimetres: "1 200" or 3' 11 1/4". */
export function length(mm: number, units: Units): string {
  if (units === "metric") return grouped(Math.round(mm));
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
  if (inches > 0 && num > 0) parts.push(`${inches} ${num}/${den}"`);
  else if (inches > 0) parts.push(`${inches}"`);
  else if (num > 0) parts.push(`${num}/${den}"`);
  return parts.length > 0 ? sign + parts.join(" ") : '0"';
}

/** size writes w × h × d with the unit where it needs one. */
export function size(dims: number[], units: Units): string {
  return dims.map((d) => length(d, units)).join(" × ") + (units === "metric" ? " mm" : "");
}

export function weight(kg: number, units: Units): string {
  if (units === "metric") return kg < 1 ? `${Math.round(kg * 1000)} g` : `${trim(kg, 1)} kg`;
  const oz = Math.round(kg / 0.028349523125);
  return oz < 16 ? `${oz} oz` : `${trim(oz / 16, 1)} lb`;
}

/** seconds writes a short time: "19 s", "4 min 05 s" or "1 h 12 min". */
export function seconds(s: number): string {
  const n = Math.round(s);
  if (n < 100) return `${s < 10 ? trim(s, 1) : n} s`;
  if (n < 3600 * 3) return `${Math.floor(n / 60)} min ${String(n % 60).padStart(2, "0")} s`;
  return `${Math.floor(n / 3600)} h ${String(Math.floor((n % 3600) / 60)).padStart(2, "0")} min`;
}

/** uses says how often something is fetched. */
export function uses(perWeek: number): string {
  if (perWeek >= 1) return `${trim(perWeek, 1)} × a week`;
  if (perWeek * 52 >= 12) return `${trim((perWeek * 52) / 12, 1)} × a month`;
  if (perWeek > 0) return `${trim(perWeek * 52, 0)} × a year`;
  return "never";
}

/** area writes square metres in both systems, the shop's own first. */
export function area(m2: number, units: Units): string {
  const own = `${m2.toFixed(m2 < 10 ? 2 : 1)} m²`;
  const other = `${Math.round(m2 / 0.09290304)} sq ft`;
  return units === "metric" ? `${own} · ${other}` : `${other} · ${own}`;
}

/** squares writes square metres in the units of the shop alone. */
export function squares(m2: number, units: Units, decimals = 1): string {
  return units === "metric" ? `${m2.toFixed(decimals)} m²` : `${(m2 / 0.09290304).toFixed(m2 < 0.1 ? 1 : 0)} sq ft`;
}

/** metres writes a length told in metres: a rail, or a way on foot. */
export function metres(m: number, units: Units, decimals = 1): string {
  if (units === "imperial") return `${grouped(Math.round(m / 0.3048))} ft`;
  return `${decimals === 0 ? grouped(Math.round(m)) : m.toFixed(decimals)} m`;
}

/** litres writes what something holds or fills. */
export function litres(l: number, units: Units): string {
  if (units === "imperial") return `${(l / 28.316846592).toFixed(l < 283 ? 1 : 0)} cu ft`;
  return l >= 1000 ? `${(l / 1000).toFixed(1)} m³` : `${Math.round(l)} l`;
}

/** load writes what is carried of what may be. */
export function load(kg: number, capacity: number, units: Units): string {
  const [own, unit] = units === "metric" ? [1, "kg"] : [0.45359237, "lb"];
  return capacity > 0 ? `${(kg / own).toFixed(1)} of ${(capacity / own).toFixed(0)} ${unit}` : `${(kg / own).toFixed(1)} ${unit}, not rated`;
}

/** volume writes cubic metres in both systems. */
export function volume(m3: number, units: Units): string {
  const own = `${m3.toFixed(1)} m³`;
  const other = `${Math.round(m3 / 0.028316846592)} cu ft`;
  return units === "metric" ? `${own} · ${other}` : `${other} · ${own}`;
}

function trim(x: number, decimals: number): string {
  return x.toFixed(decimals).replace(/\.0+$/, "");
}

/** grouped puts a thin space between thousands. */
function grouped(n: number): string {
  return String(n).replace(/\B(?=(\d{3})+$)/g, "\u2009");
}

/** day writes a date as people do. */
export const day = (date: string): string => new Date(`${date}T12:00`).toLocaleDateString(undefined, { day: "numeric", month: "short", year: "numeric" });
