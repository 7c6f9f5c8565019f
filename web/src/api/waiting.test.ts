import { expect, test } from "vitest";
import { newTicket, standingText } from "./waiting";

test("a place in the queue and steps done are told in words", () => {
  expect(standingText(null, "Laying…")).toBe("Laying…");
  expect(standingText({ before: 0, done: 0, of: 0 }, "Laying…")).toBe("Laying…");
  expect(standingText({ before: 2, done: 0, of: 0 }, "Laying…")).toBe("Waiting for its turn, 2 before it");
  expect(standingText({ before: 1, done: 120, of: 500 }, "Laying…")).toBe("Laying… 120 of 500 built");
});

test("tickets are names the server takes, and differ", () => {
  expect(newTicket()).toMatch(/^[0-9a-z-]{8,40}$/);
  expect(newTicket()).not.toBe(newTicket());
});
