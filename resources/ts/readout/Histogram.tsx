import { volumeText } from './units';

/** Pieces by volume, on a logarithmic scale, so that slivers and giants both show. */
export function Histogram({ volumes }: { volumes: number[] }) {
  const logs = volumes.map((v) => Math.log10(Math.max(v, 1e-15)));
  const low = Math.min(...logs);
  const span = Math.max(1e-9, Math.max(...logs) - low);
  const bins = new Array<number>(16).fill(0);
  for (const value of logs) {
    const bin = Math.min(15, Math.floor(((value - low) / span) * 16));
    bins[bin] = (bins[bin] ?? 0) + 1;
  }
  const most = Math.max(...bins);
  return (
    <svg
      viewBox="0 0 224 64"
      className="w-full"
      role="img"
      aria-label={`Pieces by volume, from ${volumeText(Math.min(...volumes))} to ${volumeText(Math.max(...volumes))}`}
    >
      {bins.map((count, k) => (
        <rect
          key={k}
          x={k * 14 + 1}
          width={12}
          y={50 - (count / most) * 46}
          height={Math.max(count > 0 ? 1.5 : 0, (count / most) * 46)}
          fill="var(--ink-2)"
        >
          <title>{count} pieces</title>
        </rect>
      ))}
      <line x1={0} x2={224} y1={50.5} y2={50.5} stroke="var(--line)" />
      <text x={0} y={62} fontSize={11} fill="var(--ink-2)">
        {volumeText(Math.min(...volumes))}
      </text>
      <text x={224} y={62} fontSize={11} textAnchor="end" fill="var(--ink-2)">
        {volumeText(Math.max(...volumes))}
      </text>
    </svg>
  );
}
