/** Numbers with the unit that suits their size, to three places that count. */

/** From the largest unit to the smallest: from which value on it is used, how many make one of the base unit, its sign. */
type Rung = [from: number, perBase: number, sign: string];
type Ladder = [Rung, ...Rung[]];

const VOLUME: Ladder = [
  [0.1, 1, 'm³'],
  [1e-3, 1e3, 'l'],
  [1e-7, 1e6, 'cm³'],
  [0, 1e9, 'mm³'],
];
const MASS: Ladder = [
  [1000, 1e-3, 't'],
  [1, 1, 'kg'],
  [1e-3, 1e3, 'g'],
  [0, 1e6, 'mg'],
];
const LENGTH: Ladder = [
  [1, 1, 'm'],
  [0.01, 100, 'cm'],
  [0, 1000, 'mm'],
];
const AREA: Ladder = [
  [0.1, 1, 'm²'],
  [1e-4, 1e4, 'cm²'],
  [0, 1e6, 'mm²'],
];

/** Three places, but never an exponent and never a whole number cut short: 0.0123, 1.20, 123, 12345. */
function places(value: number): string {
  const size = Math.abs(value);
  if (size >= 1000) return String(Math.round(value));
  return size >= 1e-6 ? value.toPrecision(3) : value.toFixed(0);
}

const text = (ladder: Ladder) => (value: number) => {
  // A hair below, so that what would be shown as 1000 g is 1.00 kg.
  const [, perBase, sign] = ladder.find(([from]) => Math.abs(value) >= from * 0.9995) ?? ladder[0];
  return `${places(value * perBase)} ${sign}`;
};

/** In thousands, as disks are sold. */
const BYTES: Ladder = [
  [1e9, 1e-9, 'GB'],
  [1e6, 1e-6, 'MB'],
  [1e3, 1e-3, 'kB'],
  [0, 1, 'B'],
];

export const bytesText = (bytes: number) => (bytes === 0 ? '–' : text(BYTES)(bytes));
export const volumeText = text(VOLUME);
export const massText = text(MASS);
export const lengthText = text(LENGTH);
export const areaText = text(AREA);

/** A length that is a round number of its unit: 1 m, 50 cm, 2 mm. */
export const roundLengthText = (metres: number) => {
  const [, perBase, sign] = LENGTH.find(([from]) => metres >= from * 0.9995) ?? LENGTH[0];
  return `${Math.round(metres * perBase)} ${sign}`;
};

/** Counts are said as they are, what is measured as closely as can be told beside the largest of its kind. */
export function exact(value: number, most = value): number {
  if (Number.isInteger(value) || most === 0) return value;
  const step = 10 ** (Math.floor(Math.log10(Math.abs(most))) - 3);
  return Number((Math.round(value / step) * step).toPrecision(4));
}

/** A number with its thousands told apart, as many places after the point as it has. */
export const grouped = (value: number) => value.toLocaleString('en', { maximumFractionDigits: 12 });
