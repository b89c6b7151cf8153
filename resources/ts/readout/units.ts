/** Numbers with the unit that suits their size. */
export function litres(cubicMetres: number): string {
  if (cubicMetres >= 0.1) return `${cubicMetres.toPrecision(3)} m³`;
  if (cubicMetres >= 1e-4) return `${(cubicMetres * 1e3).toPrecision(3)} l`;
  return cubicMetres >= 1e-7
    ? `${(cubicMetres * 1e6).toPrecision(3)} cm³`
    : `${(cubicMetres * 1e9).toPrecision(3)} mm³`;
}

export function massText(kg: number): string {
  return kg >= 1
    ? `${kg.toPrecision(3)} kg`
    : kg >= 0.001
      ? `${(kg * 1000).toPrecision(3)} g`
      : `${(kg * 1e6).toPrecision(3)} mg`;
}

export const metres = (value: number) =>
  value >= 1
    ? `${value.toPrecision(3)} m`
    : value >= 0.01
      ? `${(value * 100).toPrecision(3)} cm`
      : `${(value * 1000).toPrecision(3)} mm`;

export const area = (squareMetres: number) =>
  squareMetres >= 0.1
    ? `${squareMetres.toPrecision(3)} m²`
    : squareMetres >= 1e-4
      ? `${Number((squareMetres * 1e4).toPrecision(3))} cm²`
      : `${Number((squareMetres * 1e6).toPrecision(3))} mm²`;
