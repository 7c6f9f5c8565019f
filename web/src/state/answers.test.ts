import { QueryClient } from "@tanstack/react-query";
import { expect, test } from "vitest";
import { askedFor, keepAnswer } from "./answers";

test("what was asked for before a change was answered does not undo the answer", async () => {
  const client = new QueryClient();
  const key = ["design", "one"];
  let give = (_: string) => {};
  const slow = askedFor(client, key, () => new Promise<string>((done) => (give = done)));
  keepAnswer(client, key, "as it was changed");
  give("as it was before");
  expect(await slow).toBe("as it was changed");
  expect(await askedFor(client, key, async () => "as it is now")).toBe("as it is now");
  expect(await askedFor(client, ["design", "two"], async () => "another")).toBe("another");
});
