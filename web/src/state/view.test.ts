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

test("a design is found as it was left, and what is hidden in one is seen in the next", () => {
  const { enter, begin, chooseArts, hide, look } = useView.getState();
  enter("one");
  chooseArts(["a"]);
  hide("red");
  look("Exploded");
  begin("two", "Colours", []);
  expect(useView.getState()).toMatchObject({ arts: [], hidden: [], place: "Colours", lens: "Finished" });
  hide("blue");
  enter("one");
  expect(useView.getState()).toMatchObject({ arts: ["a"], hidden: ["red"] });
  enter("two");
  expect(useView.getState().hidden).toEqual(["blue"]);
});

test("what is asked of a width stays open while another place or design is looked at", () => {
  const view = () => useView.getState();
  view().enter("one");
  view().askWidth(120);
  view().goTo("Stack");
  expect(view().widthAsked).toBe(120);
  view().enter("two");
  expect(view().widthAsked).toBeNull();
  view().enter("one");
  expect(view().widthAsked).toBe(120);
});

test("another place, film, design or art puts down what was taken up", () => {
  const view = () => useView.getState();
  view().goTo("Colours");
  view().take({ kind: "picking", art: "a", picks: [] });
  for (const colour of ["#ff0000", "#00ff00", "#ff0000"]) view().pickOne(colour);
  expect(view().mode).toEqual({ kind: "picking", art: "a", picks: ["#00ff00"] });
  view().goTo("Colours");
  expect(view().mode.kind).toBe("picking");
  view().goTo("Stack");
  expect(view().mode.kind).toBe("looking");
  view().take({ kind: "holing", making: "shadow" });
  view().choose("navy");
  expect(view().mode.kind).toBe("looking");
  view().goTo("Art");
  expect(view().mode.kind).toBe("arranging");
  view().write("a", null);
  view().enter("another");
  expect(view().mode.kind).toBe("arranging");
});

test("writing begins in Art, in the lettering alone", () => {
  const view = () => useView.getState();
  view().goTo("Stack");
  view().chooseArts(["b"]);
  view().chooseLetters([0, 2]);
  view().write("a", { x: 1, y: 2 });
  expect(view()).toMatchObject({ place: "Art", arts: ["a"], letters: [], mode: { kind: "writing", art: "a" } });
  view().putDown();
  expect(view().mode.kind).toBe("arranging");
});

test("what is told of is shown on the decal lying flat", () => {
  const view = () => useView.getState();
  view().goTo("Sheets");
  view().look("Exploded");
  view().show({ at: { x_mm: 1, y_mm: 2 }, box: null, outline: "", across: null });
  expect([view().place, view().lens]).toEqual(["Proof", "Finished"]);
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
