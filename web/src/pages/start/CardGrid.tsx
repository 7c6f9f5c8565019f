import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef, useState } from "react";
import type { DesignLine } from "@/api/client";
import { DesignCard } from "@/pages/start/DesignCard";
import { useListActs } from "@/state/list";

/** How wide a card is at least, how far apart cards lie, and how high they are, in heights of letters. */
const LEAST = 11.875;
const GAP = 1;
const CARD = 14.5;
const ROWS_BEYOND = 3;

/** Cards in rows; only those in sight, and a few beyond, are on the page. */
export function CardGrid({ lines }: { lines: readonly DesignLine[] }) {
  const acts = useListActs();
  const list = useRef<HTMLUListElement>(null);
  const [wide, setWide] = useState(0);
  const [above, setAbove] = useState(0);
  const [letter, setLetter] = useState(16);
  useEffect(() => {
    const element = list.current;
    const page = element?.closest("main");
    if (!element || !page) return;
    const measure = () => {
      setLetter(Number.parseFloat(getComputedStyle(document.documentElement).fontSize) || 16);
      setWide(element.clientWidth);
      setAbove(element.getBoundingClientRect().top - page.getBoundingClientRect().top + page.scrollTop);
    };
    const watch = new ResizeObserver(measure);
    watch.observe(element);
    for (const child of page.children) watch.observe(child);
    return () => watch.disconnect();
  }, []);
  const [least, gap, card] = [LEAST * letter, GAP * letter, CARD * letter];
  const columns = Math.max(1, Math.floor((wide + gap) / (least + gap)));
  const rows = useVirtualizer({
    count: Math.ceil(lines.length / columns),
    getScrollElement: () => list.current?.closest("main") ?? null,
    estimateSize: () => card + gap,
    overscan: ROWS_BEYOND,
    scrollMargin: above,
    enabled: wide > 0,
  });
  const shown = rows.getVirtualItems();
  return (
    <ul ref={list} className="relative" style={{ height: rows.getTotalSize() }}>
      {shown.flatMap((row) =>
        lines
          .slice(row.index * columns, (row.index + 1) * columns)
          .map((line, k) => (
            <DesignCard
              key={line.id}
              line={line}
              acts={acts}
              top={row.start - above}
              left={k * ((wide + gap) / columns)}
              width={(wide - gap * (columns - 1)) / columns}
              height={card}
            />
          )),
      )}
    </ul>
  );
}
