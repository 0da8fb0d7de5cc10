import { afterEach, describe, expect, it, vi } from "vitest";
import createClient from "openapi-fetch";
import { cookie, download, faultsOf, isGone, sentence, unreachable, uploadLog } from "./client";

afterEach(() => void vi.unstubAllGlobals());

describe("answers of the server", () => {
  it("are faults in one shape, our own sentence where there was none", () => {
    const fault = { where: "fan/duty", what: "1.4", allowed: "0 to 1" };
    expect(faultsOf({ errors: [fault] })).toEqual([fault]);
    expect(sentence(fault)).toBe("fan/duty: 1.4; allowed: 0 to 1");
    expect(sentence({ ...fault, allowed: "" })).toBe("fan/duty: 1.4");
    for (const nothing of [undefined, "", "<html>bad gateway</html>"])
      expect(faultsOf(nothing)[0]?.what).toContain("does not answer");
  });

  it("that never come end as a refusal, not as a thrown error", async () => {
    const client = createClient<{ "/x": { get: { responses: { 200: { content: object } } } } }>({
      baseUrl: "http://127.0.0.1:9",
      fetch: () => Promise.reject(new TypeError("failed to fetch")),
    });
    client.use(unreachable);
    const { data, error, response } = await client.GET("/x");
    expect(data).toBeUndefined();
    expect(isGone(response)).toBe(true);
    expect(faultsOf(error)[0]?.where).toBe("server");
    expect(isGone(new Response("", { status: 422 }))).toBe(false);
  });

  it("of a download are its text or its faults", async () => {
    vi.stubGlobal("fetch", async () => new Response("a,b\n1,2\n"));
    expect(await download("/api/x.csv")).toEqual({ text: "a,b\n1,2\n" });
    vi.stubGlobal("fetch", async () => Response.json({ errors: [{ where: "x", what: "gone" }] }, { status: 404 }));
    expect((await download("/api/x.csv")).faults?.[0]?.what).toBe("gone");
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError()));
    expect((await download("/api/x.csv")).faults?.[0]?.what).toContain("does not answer");
  });

  it("to an upload carry the token and end in a run or in faults", async () => {
    vi.stubGlobal("document", { cookie: "a=1; csrftoken=abc" });
    const sent = vi.fn<(path: string, init: RequestInit) => Promise<Response>>(async () => Response.json({ id: "r1" }));
    vi.stubGlobal("fetch", sent);
    const { data } = await uploadLog("b1", new File(["t,c\n"], "log.csv"), { workload: "both" });
    expect(data?.id).toBe("r1");
    const [path, init] = sent.mock.calls[0]!;
    expect(path).toBe("/api/builds/b1/runs/log");
    expect(init.headers).toEqual({ "X-CSRFToken": "abc" });
    expect((init.body as FormData).get("workload")).toBe("both");
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError()));
    const { error } = await uploadLog("b1", new File([], "log.csv"), {});
    expect(faultsOf(error)[0]?.what).toContain("does not answer");
  });
});

describe("a cookie", () => {
  it("is found by its whole name", () => {
    expect(cookie("token", "xtoken=1; token=2")).toBe("2");
    expect(cookie("none", "token=2")).toBeUndefined();
  });
});
