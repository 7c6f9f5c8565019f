import { useMemo } from "react";
import type { Layer } from "@/api/client";
import { showArea } from "@/geometry/lengths";
import { Fold } from "@/parts/Fold";
import { useOpenDesign, useUnit } from "@/state/design";
import type { Proof, ProvedFilm } from "@/state/proof";

const BOX_MM = 3;
const PER_MM = 1000;

/** In which order films are weeded, what comes off of each, and how long it takes. */
export function WeedingFields({ proof }: { proof: Proof }) {
  const { built } = useOpenDesign();
  const ordered = useMemo(() => [...proof.films].sort((a, b) => a.weeding.nth - b.weeding.nth), [proof.films]);
  const minutes = ordered.reduce((sum, film) => sum + film.weeding.minutes, 0);
  return (
    <Fold title="Weeding" figure={`about ${inMinutes(minutes)}`} open={false}>
      <ol aria-label="Films in the order to weed them" className="flex flex-col">
        {ordered.map((film) => {
          const layer = built.layers.find((one) => one.film === film.film);
          return layer && <Weeded key={film.film} film={film} layer={layer} box={built.box} />;
        })}
      </ol>
    </Fold>
  );
}

function inMinutes(minutes: number): string {
  return minutes < 1 ? `${Math.max(1, Math.round(minutes * 60))} s` : `${minutes.toFixed(minutes < 10 ? 1 : 0)} min`;
}

interface WeededProps {
  film: ProvedFilm;
  layer: Layer;
  box: { left: number; top: number; right: number; bottom: number };
}

function Weeded({ film, layer, box }: WeededProps) {
  const unit = useUnit();
  const { waste, enclosed, smallest_mm2, minutes, reverse, lines } = film.weeding;
  return (
    <li className="flex gap-3 border-t border-line py-2">
      <Waste layer={layer} box={box} />
      <div className="min-w-0 text-sm">
        <p className="truncate text-base font-semibold">{layer.name}</p>
        <p className="measure text-soft">
          {waste === 1 ? "1 piece of waste" : `${waste} pieces of waste`}
          {enclosed > 0 && `, ${enclosed} of them enclosed`}
          {smallest_mm2 !== null && `, the smallest ${showArea(smallest_mm2, unit)}`} · {inMinutes(minutes)}
        </p>
        {reverse && <p>Its parts are small: lay the tape on first, and weed from behind.</p>}
        {lines && <p>Its waste is long: with lines to weed by, under Sheets, it comes off in strips.</p>}
      </div>
    </li>
  );
}

/** The waste of a film as it comes off: what is left of a box round it without its parts. */
function Waste({ layer, box }: { layer: Layer; box: WeededProps["box"] }) {
  const [x, y] = [box.left - BOX_MM, box.top - BOX_MM];
  const [wide, high] = [box.right - box.left + 2 * BOX_MM, box.bottom - box.top + 2 * BOX_MM];
  const k = PER_MM;
  const frame = `M${x * k} ${y * k}H${(x + wide) * k}V${(y + high) * k}H${x * k}Z`;
  return (
    <svg
      role="img"
      aria-label={`The waste of ${layer.name}`}
      viewBox={`${x * k} ${y * k} ${wide * k} ${high * k}`}
      className="h-16 w-24 shrink-0"
    >
      <path
        d={`${frame}${layer.shape.path}`}
        fillRule="evenodd"
        fill={layer.colour}
        stroke="#827c6e"
        strokeWidth={0.4 * k}
      />
    </svg>
  );
}
