/** day as 2027-05-31. */
const written = (d: Date) => d.toISOString().slice(0, 10);

/** today as 2027-05-31. */
export const today = () => written(new Date());

/** inMonths is the day in so many months. */
export function inMonths(n: number): string {
  const d = new Date();
  d.setMonth(d.getMonth() + n);
  return written(d);
}
