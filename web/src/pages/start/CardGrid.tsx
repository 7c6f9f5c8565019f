import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef, useState } from "react";
import type { DesignLine } from "@/api/client";
import { DesignCard } from "@/pages/start/DesignCard";
import { useListActs } from "@/state/list";

const LEAST_PX = 190;
const GAP_PX = 16;
const CARD_PX = 232;
const ROWS_BEYOND = 3;

/** Cards in rows; only those in sight, and a few beyond, are on the page. */
export function CardGrid({ lines }: { lines: readonly DesignLine[] }) {
  const acts = useListActs();
  const list = useRef<HTMLUListElement>(null);
  const [wide, setWide] = useState(0);
  const [above, setAbove] = useState(0);
  useEffect(() => {
    const element = list.current;
    const page = element?.closest("main");
    if (!element || !page) return;
    const measure = () => {
      setWide(element.clientWidth);
      setAbove(element.getBoundingClientRect().top - page.getBoundingClientRect().top + page.scrollTop);
    };
    const watch = new ResizeObserver(measure);
    watch.observe(element);
    for (const child of page.children) watch.observe(child);
    return () => watch.disconnect();
  }, []);
  const columns = Math.max(1, Math.floor((wide + GAP_PX) / (LEAST_PX + GAP_PX)));
  const rows = useVirtualizer({
    count: Math.ceil(lines.length / columns),
    getScrollElement: () => list.current?.closest("main") ?? null,
    estimateSize: () => CARD_PX + GAP_PX,
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
              left={k * ((wide + GAP_PX) / columns)}
              width={(wide - GAP_PX * (columns - 1)) / columns}
              height={CARD_PX}
            />
          )),
      )}
    </ul>
  );
}
