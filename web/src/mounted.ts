/** What is mounted in a test is taken down after it. */
import { afterEach } from "vitest";

afterEach(async () => {
  if (typeof document !== "undefined") (await import("@testing-library/svelte")).cleanup();
});
