/** Units one may type behind a number: what they measure, and how many of the base unit one is. */
const UNITS: Record<string, [measure: string, size: number]> = {
  m: ['length', 1],
  cm: ['length', 0.01],
  mm: ['length', 0.001],
  km: ['length', 1000],
  in: ['length', 0.0254],
  '"': ['length', 0.0254],
  ft: ['length', 0.3048],
  "'": ['length', 0.3048],
  s: ['time', 1],
  ms: ['time', 0.001],
  '°': ['angle', 1],
  deg: ['angle', 1],
  rad: ['angle', 180 / Math.PI],
  turn: ['angle', 360],
  turns: ['angle', 360],
  '%': ['share', 1],
  kg: ['mass', 1],
  g: ['mass', 0.001],
  t: ['mass', 1000],
  'kg/m³': ['density', 1],
  'kg/m3': ['density', 1],
  'g/cm³': ['density', 1000],
  'g/cm3': ['density', 1000],
  'kg/m²': ['cover', 1],
  'kg/m2': ['cover', 1],
  'g/m²': ['cover', 0.001],
  'g/m2': ['cover', 0.001],
  gsm: ['cover', 0.001],
  'm/s': ['speed', 1],
  'cm/s': ['speed', 0.01],
  'km/h': ['speed', 1 / 3.6],
  '°/s': ['spin', 1],
  'deg/s': ['spin', 1],
  'rad/s': ['spin', 180 / Math.PI],
  'm/s²': ['acceleration', 1],
  'm/s2': ['acceleration', 1],
  'm/s^2': ['acceleration', 1],
  Pa: ['pressure', 1],
  kPa: ['pressure', 1000],
  f: ['frames', 1],
  frame: ['frames', 1],
  frames: ['frames', 1],
};

/**
 * A number as typed, in the field's own unit: "5 mm" in a field of metres is 0.005. Null: it cannot be read, or the unit
 * measures something else.
 */
export function quantity(text: string, unit: string | undefined): number | null {
  const parts = /^([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)\s*(.*)$/i.exec(text.trim().replace(',', '.'));
  if (!parts) return null;
  const number = Number(parts[1]);
  const given = parts[2] ?? '';
  if (!Number.isFinite(number)) return null;
  if (given === '' || given === unit) return number;
  const from = UNITS[given];
  const to = unit === undefined ? undefined : UNITS[unit];
  if (!from || !to || from[0] !== to[0]) return null;
  return Number(((number * from[1]) / to[1]).toPrecision(12));
}
