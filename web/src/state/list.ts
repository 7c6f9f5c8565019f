import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { toast } from "sonner";
import { api, type DesignLine, expectData, expectDesign, expectDone } from "@/api/client";
import { tell } from "@/state/design";

const UNDO_MS = 10_000;

/** All designs in the bin. */
export function useBin() {
  return useQuery({ queryKey: ["bin"], queryFn: () => expectData(api.GET("/api/bin")) });
}

/** What can be done to a design from the list. */
export function useListActs() {
  const client = useQueryClient();
  const renew = () => {
    void client.invalidateQueries({ queryKey: ["designs"] });
    void client.invalidateQueries({ queryKey: ["bin"] });
  };
  const done = { onSuccess: renew, onError: tell };
  const rename = useMutation({
    mutationFn: ({ line, name }: { line: DesignLine; name: string }) =>
      expectDesign(
        api.POST("/api/designs/{design}/edits", {
          params: { path: { design: line.id } },
          body: { base: line.revision, edit: { kind: "rename-design", name } },
        }),
      ),
    ...done,
  });
  const copy = useMutation({
    mutationFn: (line: DesignLine) =>
      expectData(api.POST("/api/designs/{design}/copy", { params: { path: { design: line.id } } })),
    ...done,
  });
  const tag = useMutation({
    mutationFn: ({ line, tags }: { line: DesignLine; tags: string[] }) =>
      expectDone(api.PUT("/api/designs/{design}/tags", { params: { path: { design: line.id } }, body: { tags } })),
    ...done,
  });
  const restore = useMutation({
    mutationFn: (line: DesignLine) =>
      expectDone(api.POST("/api/designs/{design}/restore", { params: { path: { design: line.id } } })),
    ...done,
  });
  const remove = useMutation({
    mutationFn: (line: DesignLine) =>
      expectDone(api.POST("/api/designs/{design}/bin", { params: { path: { design: line.id } } })),
    onSuccess: (_, line) => {
      renew();
      toast(`“${line.name}” is in the bin.`, {
        description: "It stays there for 30 days.",
        duration: UNDO_MS,
        action: { label: "Undo", onClick: () => restore.mutate(line) },
      });
    },
    onError: tell,
  });
  // One and the same as long as nothing but their answers changes: cards that were given them are not drawn anew.
  return useMemo(
    () => ({
      rename: rename.mutate,
      copy: copy.mutate,
      tag: tag.mutate,
      restore: restore.mutate,
      remove: remove.mutate,
    }),
    [rename.mutate, copy.mutate, tag.mutate, restore.mutate, remove.mutate],
  );
}

export type ListActs = ReturnType<typeof useListActs>;

/** The lines that hold all words of what is looked for, in their names or tags, and have a tag; by name or last change. */
export function sought(
  lines: readonly DesignLine[],
  words: string,
  tag: string | null,
  order: "changed" | "name",
): DesignLine[] {
  const parts = words.toLocaleLowerCase().split(/\s+/).filter(Boolean);
  const found = lines.filter((line) => {
    const text = [line.name, ...line.tags].join(" ").toLocaleLowerCase();
    return parts.every((part) => text.includes(part)) && (tag === null || line.tags.includes(tag));
  });
  if (order === "name") {
    found.sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true, sensitivity: "base" }));
  }
  return found;
}
