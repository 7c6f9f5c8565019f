import { beforeEach, expect, test, vi } from "vitest";
import { useTries } from "./tries";
import { useView } from "./view";

const BEGIN = useView.getState();
beforeEach(() => useView.setState(BEGIN, true));

test("another design is looked at afresh, the same one as it was left", () => {
  const { enter, chooseArts, hide, choose, look } = useView.getState();
  enter("one");
  chooseArts(["a"]);
  hide("red");
  choose("navy");
  look("Cut lines");
  enter("one");
  expect(useView.getState()).toMatchObject({ arts: ["a"], hidden: ["red"], film: "navy" });
  enter("two");
  expect(useView.getState()).toMatchObject({ arts: [], hidden: [], film: null, lens: "Cut lines" });
});

test("another place ends picking, and other art lets go of letters", () => {
  const view = () => useView.getState();
  view().pick(true);
  view().pickOne("#ff0000");
  view().pickOne("#00ff00");
  view().pickOne("#ff0000");
  expect(view().picks).toEqual(["#00ff00"]);
  view().goTo("Stack");
  expect([view().picking, view().picks]).toEqual([false, []]);
  view().chooseArts(["a"]);
  view().chooseLetters([0, 2]);
  view().chooseArts(["a"]);
  expect(view().letters).toEqual([]);
});

test("what is told of is shown on the decal lying flat", () => {
  const view = () => useView.getState();
  view().goTo("Sheets");
  view().look("Exploded");
  view().show({ at: { x_mm: 1, y_mm: 2 }, box: null, outline: "" });
  expect([view().place, view().lens]).toEqual(["Stack", "Finished"]);
  view().show(null);
  expect(view().shown).toBeNull();
});

test("a film that is hidden twice is seen again", () => {
  const { hide, showAll } = useView.getState();
  hide("red");
  hide("navy");
  hide("red");
  expect(useView.getState().hidden).toEqual(["navy"]);
  showAll();
  expect(useView.getState().hidden).toEqual([]);
});

test("what was tried before the control was let go is not shown after it", () => {
  const stop = vi.fn();
  const { begin, show, clear, round } = useTries.getState();
  begin(stop);
  clear();
  expect(stop).toHaveBeenCalledOnce();
  show("one", {} as never, round);
  expect(useTries.getState().tried).toBeNull();
  show("one", {} as never, round + 1);
  expect(useTries.getState().tried?.design).toBe("one");
});
