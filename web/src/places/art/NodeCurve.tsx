import { showTime } from "@/geometry/lengths";
import type { Nodes } from "@/state/nodes";

const [WIDE, HIGH, FOOT] = [300, 84, 14];

interface NodeCurveProps {
  nodes: Nodes;
  /** How far edges may move now. */
  mm: number;
  onTake(mm: number): void;
}

/** Nodes over how far edges may move: what is now, and where the curve bends. Each point can be taken. */
export function NodeCurve({ nodes: { curve, knee_mm }, mm, onTake }: NodeCurveProps) {
  const far = curve.at(-1)?.mm ?? 1;
  const most = curve[0]?.nodes ?? 1;
  const x = (at: number) => 6 + (Math.min(at, far) / far) * (WIDE - 12);
  const y = (count: number) => 6 + (1 - count / most) * (HIGH - FOOT - 12);
  const line = curve.map((one) => `${x(one.mm)} ${y(one.nodes)}`).join(" L");
  return (
    <fieldset className="relative">
      <legend className="sr-only">Nodes by how far edges may move</legend>
      <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="block w-full" aria-hidden>
        <path d={`M6 ${HIGH - FOOT}H${WIDE - 6}`} className="stroke-line" />
        <path d={`M${line}`} fill="none" strokeWidth={1.5} className="stroke-ink" />
        <path d={`M${x(mm)} 2V${HIGH - FOOT}`} strokeWidth={1.5} className="stroke-chosen" />
        <text x={6} y={HIGH - 2} className="fill-soft text-[9px]">
          0
        </text>
        <text x={WIDE - 6} y={HIGH - 2} textAnchor="end" className="fill-soft text-[9px]">
          {far} mm
        </text>
      </svg>
      {curve.map((one) => (
        <button
          key={one.mm}
          type="button"
          aria-pressed={Math.abs(one.mm - mm) < 1e-6}
          aria-label={`${one.mm} mm: ${one.nodes} nodes, ${showTime(one.seconds)}${one.mm === knee_mm ? ", proposed" : ""}`}
          title={`${one.mm} mm: ${one.nodes} nodes, ${showTime(one.seconds)}`}
          className={`absolute h-6 w-6 -translate-x-1/2 -translate-y-1/2 rounded-full p-0 after:absolute after:inset-[7px] after:rounded-full after:border after:border-ink after:content-[''] hover:after:bg-tint aria-pressed:after:bg-chosen ${one.mm === knee_mm && knee_mm > 0 ? "after:inset-[5px] after:border-2 after:border-chosen" : "after:bg-paper"}`}
          style={{ left: `${(x(one.mm) / WIDE) * 100}%`, top: `${(y(one.nodes) / HIGH) * 100}%` }}
          onClick={() => onTake(one.mm)}
        />
      ))}
    </fieldset>
  );
}
