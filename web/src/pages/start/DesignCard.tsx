import { useQueryClient } from "@tanstack/react-query";
import { type KeyboardEvent, memo, Suspense, useEffect, useRef, useState } from "react";
import type { DesignLine } from "@/api/client";
import { lengthDigits, showLength } from "@/geometry/lengths";
import { ComingFilms } from "@/parts/ComingFilms";
import { lazily } from "@/parts/lazily";
import { type LookState, SmallLook } from "@/parts/SmallLook";
import type { ListActs } from "@/state/list";
import { goTo } from "@/state/route";

const MOST_NAME = 120;
const CardMenu = lazily(() => import("./CardMenu").then((menu) => menu.CardMenu));

interface DesignCardProps {
  line: DesignLine;
  acts: ListActs;
  /** Where it lies in the grid, pixels: numbers, so that a card in its place is not drawn anew while the page scrolls. */
  left: number;
  top: number;
  width: number;
  height: number;
}

/** A design in the list: its picture on its ground, its name, tags, and what can be done with it. */
export const DesignCard = memo(function DesignCard({ line, acts, ...box }: DesignCardProps) {
  const [writing, setWriting] = useState<"name" | "tags" | null>(null);
  return (
    <li className="absolute overflow-hidden rounded-lg border border-line bg-paper hover:border-firm" style={box}>
      <a
        href={`/design/${line.id}`}
        className="block"
        onClick={(event) => {
          if (event.metaKey || event.ctrlKey) return;
          event.preventDefault();
          goTo(`/design/${line.id}`);
        }}
      >
        <Picture line={line} />
        {writing === null && (
          <span className="mt-0.5 mr-9 mb-0.5 line-clamp-2 px-3 pt-2 font-semibold">{line.name}</span>
        )}
      </a>
      {writing === "name" && (
        <Write
          label="Name of the design"
          text={line.name}
          most={MOST_NAME}
          onWritten={(name) => name && name !== line.name && acts.rename({ line, name })}
          onDone={() => setWriting(null)}
        />
      )}
      {writing === "tags" && (
        <Write
          label="Tags, with commas between"
          text={line.tags.join(", ")}
          most={400}
          onWritten={(text) => acts.tag({ line, tags: tagsIn(text) })}
          onDone={() => setWriting(null)}
        />
      )}
      <p className="truncate px-3 pb-2 text-sm text-soft">
        {figuresOf(line) ?? new Date(line.changed).toLocaleDateString([], DAY)}
        {line.versions.length > 0 && ` · ${line.versions.length + 1} versions`}
        {line.tags.length > 0 && ` · ${line.tags.join(", ")}`}
      </p>
      <Suspense fallback={null}>
        <CardMenu line={line} acts={acts} onWrite={setWriting} />
      </Suspense>
    </li>
  );
});

const DAY = { day: "numeric", month: "short", year: "numeric" } as const;

/** How many films a design has and how large it is; null as long as that was not worked out. */
function figuresOf({ films, width_mm, height_mm, unit }: DesignLine): string | null {
  if (films === null || width_mm === null || height_mm === null) return null;
  if (films === 0) return "no films";
  const places = unit === "mm" ? 0 : 1;
  const size = `${lengthDigits(width_mm, unit, places)} × ${showLength(height_mm, unit, places)}`;
  return `${films === 1 ? "1 film" : `${films} films`} · ${size}`;
}

/** The small picture of a design; while there is none yet, three quiet films stand for it. */
export function Picture({ line }: { line: DesignLine }) {
  const [state, setState] = useState<LookState>("coming");
  const client = useQueryClient();
  // What is told beside a picture is known once that was made.
  const seen = (now: LookState) => {
    setState(now);
    if (now === "there" && line.films === null) void client.invalidateQueries({ queryKey: ["designs"] });
  };
  return (
    <span
      className="relative grid h-36 place-items-center border-b border-line"
      style={{ background: state === "there" ? line.ground : "var(--color-table)" }}
    >
      {state !== "there" && <ComingFilms className="absolute h-10" still={state === "none"} />}
      <SmallLook
        key={line.revision}
        design={line.id}
        revision={line.revision}
        className={`h-36 w-full object-contain p-3 ${state === "there" ? "" : "opacity-0"}`}
        onState={seen}
      />
    </span>
  );
}

interface WriteProps {
  label: string;
  text: string;
  most: number;
  onWritten(text: string): unknown;
  onDone(): void;
}

/** A line to write in: Enter keeps what was written, Escape does not. */
function Write({ label, text, most, onWritten, onDone }: WriteProps) {
  const [now, setNow] = useState(text);
  const given = useRef(false);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    input.current?.focus();
    input.current?.select();
  }, []);
  const keep = () => {
    if (given.current) return;
    given.current = true;
    onWritten(now.trim());
    onDone();
  };
  const onKey = (event: KeyboardEvent) => {
    if (event.key === "Enter") keep();
    if (event.key === "Escape") {
      given.current = true;
      onDone();
    }
  };
  return (
    <input
      ref={input}
      aria-label={label}
      placeholder={label}
      value={now}
      maxLength={most}
      className="mx-3 mt-2 mb-1 w-[calc(100%-3.75rem)] border-b-2 border-chosen bg-transparent font-semibold outline-none"
      onChange={(event) => setNow(event.target.value)}
      onKeyDown={onKey}
      onBlur={keep}
    />
  );
}

function tagsIn(text: string): string[] {
  const tags = text.split(",").map((tag) => tag.trim().slice(0, 40));
  return [...new Set(tags.filter(Boolean))].slice(0, 20);
}
