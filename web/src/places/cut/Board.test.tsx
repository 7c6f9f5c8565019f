// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";
import { Board, type OnBoard, sayStage } from "@/places/cut/Board";

const NAVY: OnBoard = {
  number: 1, name: "Navy", colour: "#1d2b53", material: "Night navy", kind: "roll", width_mm: 300, face_down: false,
  stage: "cutting", contours: 174, to_cut: 108, pen: 0, pen_name: null, trouble: null,
}; // biome-ignore format: one film, not a form
const GOLD: OnBoard = {
  ...NAVY,
  number: 2,
  name: "Gold",
  material: "Lamp gold",
  width_mm: 140,
  face_down: true,
  stage: "waiting",
};

function show(sheet: OnBoard, next?: OnBoard): string {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Board sheet={sheet} next={next} of={3} begun beside />
    </QueryClientProvider>,
  );
  return screen.getByRole("region").textContent ?? "";
}

afterEach(cleanup);

it("tells the film, how far it is, and what to lay out for the next", () => {
  const said = show(NAVY, GOLD);
  for (const part of ["1 of 3", "Navy", "66 of 174 cut", "Next: Gold", "Lamp gold, 140.0 mm wide, face down"])
    expect(said).toContain(part);
});

it("tells of trouble alone", () => {
  const said = show({ ...NAVY, stage: "trouble", trouble: "The cover is open." }, GOLD);
  expect(said).toContain("The cover is open.");
  expect(said).not.toContain("Gold");
});

it("says of each stage what is to be done", () => {
  const said = (["waiting", "ready", "cutting", "paused", "cut", "done"] as const).map((stage) =>
    sayStage({ ...NAVY, stage }),
  );
  expect(new Set(said).size).toBe(said.length);
  expect(sayStage({ ...NAVY, stage: "ready", pen: 4, pen_name: "Gold pen" })).toBe("Put Gold pen in");
  expect(sayStage({ ...NAVY, stage: "ready", to_cut: 174 })).toBe("Ready to cut");
});
