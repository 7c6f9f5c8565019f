import { hasRegions, isHole, isRaster } from "@/api/client";
import { Select } from "@/entry/Entry";
import { Findings } from "@/parts/Findings";
import { ClaimFields } from "@/places/colours/ClaimFields";
import { FramePart } from "@/places/colours/FramePart";
import { MendFields } from "@/places/colours/MendFields";
import { Straight } from "@/places/colours/Straight";
import { TakenAs } from "@/places/colours/TakenAs";
import { Found } from "@/places/Found";
import { kindOf } from "@/places/kinds";
import { useOpenDesign } from "@/state/design";
import { useView } from "@/state/view";

/** What each part of the chosen art is cut from: its colours, its ink, its regions; and what is mended in it. */
export function Colours() {
  const { recipe, built } = useOpenDesign();
  const chosen = useView((view) => view.arts);
  const chooseArts = useView((view) => view.chooseArts);
  const inParts = recipe.arts.filter(hasRegions);
  const art = recipe.arts.find((one) => chosen.includes(one.id)) ?? inParts[0];
  if (!art) {
    return (
      <p className="text-soft">
        The films of lettering and shapes are chosen under Art. Bring in a picture or a vector file, and its colours
        show here.
      </p>
    );
  }
  const Own = kindOf(art).Colours;
  return (
    <div className="flex flex-col gap-4">
      <Found />
      {recipe.arts.length > 1 && (
        <Select
          aria-label="Art whose colours are shown"
          className="w-full font-semibold"
          value={art.id}
          onChange={(event) => chooseArts([event.target.value])}
        >
          {recipe.arts.map((one) => (
            <option key={one.id} value={one.id}>
              {built.arts.find((other) => other.id === one.id)?.name ?? one.id}
            </option>
          ))}
        </Select>
      )}
      {isRaster(art) && (
        <p className="flex flex-wrap gap-2">
          <TakenAs key={`${art.id}-taken`} art={art} />
          <Straight key={`${art.id}-straight`} art={art} />
          <FramePart key={`${art.id}-part`} art={art} />
        </p>
      )}
      <Findings findings={built.findings.filter((one) => one.about === art.id && one.beside === "art")} />
      {Own && <Own key={art.id} art={art} />}
      {hasRegions(art) && <ClaimFields key={`${art.id}-claims`} art={art} />}
      {isHole(art) && (
        <p className="text-soft">
          This art is a hole in other films; it has no colour. Bridges across it hold inner parts.
        </p>
      )}
      <MendFields key={`${art.id}-mends`} art={art} />
    </div>
  );
}
