import { expect, test } from "vitest";
import { browserOf } from "./browser";

test.each([
  ["Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0", "Firefox on Linux"],
  [
    "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0 Safari/537.36",
    "Chromium on Linux",
  ],
  ["Mozilla/5.0 (Windows NT 10.0) AppleWebKit/537.36 Chrome/140.0 Safari/537.36 Edg/140.0", "Edge on Windows"],
  ["Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) AppleWebKit/605 Version/18.0 Safari/604.1", "Safari on iOS"],
  ["Mozilla/5.0 (Linux; Android 15) AppleWebKit/537.36 Chrome/140.0 Safari/537.36", "Chromium on Android"],
  ["krill-logger/1", "krill-logger/1"],
  ["", "not known"],
])("%s is %s", (agent, says) => expect(browserOf(agent)).toBe(says));
