import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { addFont, api, expectData, type Font } from "@/api/client";
import { FilePicker } from "@/parts/FilePicker";
import { Panel, PanelItem } from "@/parts/Panel";
import { tell } from "@/state/design";
import { OwnFont } from "./OwnFont";

export function useFonts(): Font[] {
  return useQuery({ queryKey: ["fonts"], queryFn: () => expectData(api.GET("/api/fonts")) }).data ?? [];
}

interface FontFieldProps {
  label: string;
  font: string;
  onFont(font: string): unknown;
}

/** The font shelf: every font drawn in itself, and room for the maker's own. */
export function FontField({ label, font, onFont }: FontFieldProps) {
  const fonts = useFonts();
  const client = useQueryClient();
  const add = useMutation({
    mutationFn: addFont,
    onSuccess: (added) => {
      void client.invalidateQueries({ queryKey: ["fonts"] });
      onFont(added.key);
    },
    onError: tell,
  });
  const chosen = fonts.find((candidate) => candidate.key === font);
  return (
    <Panel
      label={`${label}: ${chosen?.name ?? font}`}
      width="w-80"
      triggerClass="flex h-11 w-full items-center overflow-hidden rounded border border-firm bg-table px-2 hover:border-ink"
      trigger={chosen ? <Sample font={chosen} /> : font}
    >
      <p className="mb-1 font-semibold">Font shelf</p>
      {fonts.map((candidate) => (
        <div key={candidate.key}>
          <PanelItem current={candidate.key === font} onSelect={() => onFont(candidate.key)}>
            <span className="flex min-w-0 flex-col">
              <Sample font={candidate} />
              <span className="text-xs text-soft">{[candidate.manner, ...candidate.tags].join(", ")}</span>
            </span>
          </PanelItem>
          {candidate.own && <OwnFont font={candidate} />}
        </div>
      ))}
      <div className="mt-2 border-t border-line pt-2">
        <FilePicker
          label="Font file"
          accept=".ttf,.otf,.woff,.woff2"
          className="act text-sm"
          disabled={add.isPending}
          onFile={(file) => add.mutate(file)}
        >
          Add a font of my own
        </FilePicker>
      </div>
    </Panel>
  );
}

/** A font's name drawn in it, plain if it cannot be drawn; its letters stand between the lines of a fixed height. */
function Sample({ font }: { font: Font }) {
  if (!font.sample) return <span className="truncate">{font.name}</span>;
  return (
    <svg
      viewBox="-1 -15 150 22"
      className="h-8 w-full min-w-0"
      preserveAspectRatio="xMinYMid meet"
      role="img"
      aria-label={font.name}
    >
      <path d={font.sample} fill="currentColor" fillRule="nonzero" />
    </svg>
  );
}
