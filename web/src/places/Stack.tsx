import { useRef, useState } from "react";
import type { Layer } from "@/api/client";
import { showArea } from "@/geometry/lengths";
import { Findings } from "@/parts/Findings";
import { JointControl } from "@/parts/JointControl";
import { Term } from "@/parts/Term";
import { FALLBACK, FilmDetails, PairControl } from "@/places/stack/FilmDetails";
import { GroundField } from "@/places/stack/GroundField";
import { MakeOf } from "@/places/stack/Makings";
import { PenRow } from "@/places/stack/PenRow";
import { SlipLine, TroubleOf } from "@/places/stack/SlipLine";
import { UseField } from "@/places/stack/UseField";
import { smallOf } from "@/stage/pieces";
import { useEdit, useOpenDesign, useUnit } from "@/state/design";
import { say } from "@/state/speech";
import { useAsked } from "@/state/useAsked";
import { useView } from "@/state/view";

/** The stack in side view, top film at the top; between two films their joint. */
export function Stack() {
  const { recipe, built } = useOpenDesign();
  const edit = useEdit();
  const { film: chosen, choose } = useView();
  const [over, setOver] = useState<number | null>(null);
  const dragged = useRef<number | null>(null);
  const layers = built.layers;
  const held = layers.map((layer) => layer.film);
  const proposed = built.proposed_order.every((film, k) => film === held[k]);
  const asked = useAsked(held);
  // A film may have come to nothing while an order was asked for.
  const order = asked.value.length === held.length && asked.value.every((f) => held.includes(f)) ? asked.value : held;

  const move = (from: number, to: number) => {
    if (to < 0 || to >= order.length || from === to) return;
    const next = order.filter((_, k) => k !== from);
    next.splice(to, 0, order[from] as string);
    asked.ask(next, async () => {
      const made = await edit({ kind: "order-films", order: next });
      const name = layers.find((layer) => layer.film === order[from])?.name;
      if (made) say(`${name}: film ${to + 1} of ${order.length} from the ground.`);
      return made;
    });
  };
  const drop = (at: number) => {
    const from = dragged.current;
    dragged.current = null;
    setOver(null);
    if (from !== null) move(from, at);
  };

  return (
    <div className="flex flex-col gap-3">
      <Findings findings={built.findings.filter((finding) => finding.beside === "stack")} />
      <div className="flex items-center justify-between">
        <span className="heading">
          <Term word="joint">Joint of all films</Term>
        </span>
        <JointControl
          label="Joint of all films"
          kind={recipe.joint.kind}
          mm={recipe.joint.mm}
          {...FALLBACK}
          onSet={(rule) => edit({ kind: "set-joint", rule })}
        />
      </div>
      <SlipLine />
      <ol aria-label="Stack, top film first" aria-busy={asked.pending || undefined} className="flex flex-col">
        {order
          .map((film, k) => ({ layer: layers[held.indexOf(film)] as Layer, k }))
          .reverse()
          .map(({ layer, k }) => (
            <li
              key={layer.film}
              data-film-at={k}
              data-pending={layer.film !== held[k] || undefined}
              onDragOver={(event) => {
                if (dragged.current === null) return;
                event.preventDefault();
                setOver(k);
              }}
              onDrop={(event) => {
                event.preventDefault();
                drop(k);
              }}
            >
              <FilmRow
                layer={layer}
                at={k}
                index={held.indexOf(layer.film)}
                open={chosen === layer.film}
                target={over === k && dragged.current !== k}
                onToggle={() => choose(chosen === layer.film ? null : layer.film)}
                onMove={(by) => move(k, k + by)}
                onGrab={() => {
                  dragged.current = k;
                }}
                onSlide={(at) => setOver(at)}
                onDrop={drop}
                onLetGo={() => {
                  dragged.current = null;
                  setOver(null);
                }}
              />
              {/* How films meet in another order is only known once it is worked out. */}
              {k > 0 && (asked.pending ? <div className="h-1.5" /> : <Between lower={k - 1} upper={k} />)}
            </li>
          ))}
      </ol>
      {built.pens.length > 0 && (
        <section aria-label="Drawn by a pen" className="mt-3">
          <h2 className="heading">Drawn by a pen, not cut</h2>
          {built.pens.map((pen) => (
            <PenRow key={pen.film} pen={pen} />
          ))}
        </section>
      )}
      {built.left_out.length > 0 && (
        <ul aria-label="Left out" className="flex flex-wrap items-center gap-2 text-sm text-soft">
          <li>Left out:</li>
          {built.left_out.map(({ film, colour, name }) => (
            <li key={film}>
              <button
                type="button"
                className="act flex items-center gap-2 text-sm"
                onClick={() => edit({ kind: "leave-out", film, left_out: false })}
              >
                <span className="h-4 w-4 rounded-sm border border-firm" style={{ background: colour }} />
                {name}: take in
              </button>
            </li>
          ))}
        </ul>
      )}
      <p className="flex items-center gap-2 border-t-4 border-ink pt-1 text-sm text-soft">
        <Term word="ground">Ground</Term>
        <GroundField />
        {!proposed && (
          <button type="button" className="quiet ml-auto" onClick={() => edit({ kind: "order-films", order: [] })}>
            back to the proposed order
          </button>
        )}
      </p>
      <div className="flex items-center justify-between gap-2">
        <MakeOf film={null} label="Make a shadow of the whole decal" />
      </div>
      <p className="text-sm text-soft">
        Drag a film to reorder (by finger: its colour), or choose it and press Alt with ↑ or ↓. Dragged onto the table,
        it becomes the film of the area there.
      </p>
      <UseField />
    </div>
  );
}

interface FilmRowProps {
  layer: Layer;
  /** Where it is shown, from the ground; and where it lies as the design holds it. */
  at: number;
  index: number;
  open: boolean;
  target: boolean;
  onToggle(): void;
  onMove(by: number): void;
  onGrab(): void;
  /** A finger has drawn it over another film, or over none. */
  onSlide(at: number | null): void;
  onDrop(at: number): void;
  onLetGo(): void;
}

/** The film of the stack that lies under a point of the window, by its number from the ground. */
function filmUnder({ clientX, clientY }: { clientX: number; clientY: number }): number | null {
  const at = document.elementFromPoint(clientX, clientY)?.closest("[data-film-at]")?.getAttribute("data-film-at");
  return at ? Number(at) : null;
}

function FilmRow({ layer, at, index, open, target, onToggle, onMove, onGrab, onSlide, onDrop, onLetGo }: FilmRowProps) {
  const unit = useUnit();
  const { recipe } = useOpenDesign();
  const hidden = useView((view) => view.hidden.includes(layer.film));
  const small = smallOf(layer.shape, recipe.small_mm2).length;
  return (
    <div className={target ? "border-t-2 border-chosen" : "border-t-2 border-transparent"}>
      <button
        type="button"
        draggable
        aria-expanded={open}
        aria-label={`${layer.name}, film ${at + 1} from the ground`}
        className={`grid w-full cursor-grab grid-cols-[88px_1fr_auto] items-center gap-3 rounded-sm border text-left ${open ? "border-chosen bg-tint" : "border-line bg-table hover:border-firm"}`}
        onClick={onToggle}
        onDragStart={(event) => {
          event.dataTransfer.effectAllowed = "all";
          event.dataTransfer.setData("text/plain", layer.film);
          // On the table it is what a region is to be cut from.
          event.dataTransfer.setData("text/x-film", layer.film);
          onGrab();
        }}
        onDragEnd={onLetGo}
        onKeyDown={(event) => {
          if (!event.altKey || (event.key !== "ArrowUp" && event.key !== "ArrowDown")) return;
          event.preventDefault();
          onMove(event.key === "ArrowUp" ? 1 : -1);
        }}
      >
        {/* A finger on the row scrolls; on its colour it takes the film along. */}
        <span
          className="h-8 touch-none border-r border-black/20"
          style={{ background: layer.colour }}
          onPointerDown={(event) => {
            if (event.pointerType !== "touch") return;
            event.currentTarget.setPointerCapture(event.pointerId);
            onGrab();
          }}
          onPointerMove={(event) => event.pointerType === "touch" && onSlide(filmUnder(event))}
          onPointerUp={(event) => {
            if (event.pointerType !== "touch") return;
            const over = filmUnder(event);
            if (over === null || over === at) return onLetGo();
            onDrop(over);
          }}
          onPointerCancel={onLetGo}
        />
        <span className="truncate font-semibold">{layer.name}</span>
        <span className="measure pr-2 text-right text-sm text-soft">
          {showArea(layer.area_mm2, unit)} · {layer.pieces} {layer.pieces === 1 ? "piece" : "pieces"}
          {small > 0 && <span className="block text-fail">{small === 1 ? "1 small" : `${small} small`}</span>}
          {hidden && <span className="block text-fail">hidden</span>}
          <TroubleOf film={layer.film} />
        </span>
      </button>
      {open && <FilmDetails layer={layer} index={index} onMove={onMove} />}
    </div>
  );
}

/** The joint of two films that follow each other in the stack. */
function Between({ lower, upper }: { lower: number; upper: number }) {
  const { built } = useOpenDesign();
  const joint = built.joints.find((j) => j.lower === lower && j.upper === upper);
  const low = built.layers[lower];
  const high = built.layers[upper];
  if (!low || !high) return null;
  // Films that do not meet have no joint; a little air keeps them apart.
  if (!joint) return <div className="h-1.5" />;
  return (
    <div className="flex h-8 items-center pl-1">
      <PairControl joint={joint} low={low} high={high} label={`Joint of ${low.name} and ${high.name}`} />
    </div>
  );
}
