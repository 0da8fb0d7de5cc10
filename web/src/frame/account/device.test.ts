import { expect, test } from "vitest";
import { deviceOf } from "./device";

test.each([
  ["Browser/5.0 (X11; x86_64) Engine/140.0", "Computer"],
  ["Browser/5.0 (Handheld) Engine/140.0 Mobile/1", "Phone"],
  ["krill-logger/1", "Computer"],
  ["", "not known"],
])("%s is %s", (agent, says) => expect(deviceOf(agent)).toBe(says));
