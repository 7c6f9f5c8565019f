import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, expectData, expectDone, type Font } from "@/api/client";
import { Input } from "@/entry/Entry";
import { tell } from "@/state/design";

/** A font of the maker's own: its name and tags, and taking it off the shelf, once it is said which designs are set in it. */
export function OwnFont({ font }: { font: Font }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState(font.name);
  const [tags, setTags] = useState(font.tags.join(", "));
  const client = useQueryClient();
  const path = { path: { font: font.key } };
  const used = useQuery({
    queryKey: ["font-designs", font.key],
    queryFn: () => expectData(api.GET("/api/fonts/{font}/designs", { params: path })),
    enabled: open,
  }).data;
  const done = (work: Promise<unknown>) =>
    work.then(() => client.invalidateQueries({ queryKey: ["fonts"] })).then(() => setOpen(false), tell);
  if (!open) {
    return (
      <button
        type="button"
        className="quiet text-xs"
        aria-label={`Change ${font.name} on the shelf`}
        onClick={() => setOpen(true)}
      >
        Change…
      </button>
    );
  }
  const words = {
    name: name.trim(),
    tags: tags
      .split(",")
      .map((tag) => tag.trim())
      .filter(Boolean),
  };
  return (
    <div className="mb-2 flex w-full flex-col gap-2 rounded bg-tint/50 p-2">
      <label className="flex flex-col">
        <span className="heading">Name of the font</span>
        <Input maxLength={120} value={name} onChange={(event) => setName(event.target.value)} />
      </label>
      <label className="flex flex-col">
        <span className="heading">Tags, with commas between</span>
        <Input maxLength={400} value={tags} onChange={(event) => setTags(event.target.value)} />
      </label>
      <p className="text-sm text-soft">
        {used === undefined
          ? "Looking for the designs that are set in it…"
          : used.length === 0
            ? "No design is set in it."
            : `Set in it, and keeping it when it is removed: ${used.slice(0, 4).join(", ")}${used.length > 4 ? ` and ${used.length - 4} more` : ""}.`}
      </p>
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className="act text-sm"
          disabled={!words.name}
          onClick={() => done(expectData(api.PUT("/api/fonts/{font}", { params: path, body: words })))}
        >
          Keep the name
        </button>
        <button
          type="button"
          className="act text-sm"
          disabled={used === undefined}
          onClick={() => done(expectDone(api.DELETE("/api/fonts/{font}", { params: path })))}
        >
          Delete from the shelf
        </button>
        <button type="button" className="quiet text-sm" onClick={() => setOpen(false)}>
          Cancel
        </button>
      </div>
    </div>
  );
}
