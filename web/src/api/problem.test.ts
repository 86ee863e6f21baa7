import { beforeEach, describe, expect, it, vi } from "vitest";
import { between, down, refuses, says, server, storage, stubTablet } from "@/testing/tablet";
import { Problem, sentenceOf } from "./problem";

describe("a refusal by the server", () => {
  const body = {
    type: "urn:felloe:problem:not_valid",
    detail: "Two fields are wrong.",
    errors: [
      { field: "specification.rim.erd_mm", message: "ERD must be larger than the hub.", code: "impossible" },
      { field: "spoke", message: "There is no R40.", code: "unknown" },
      { field: 7, message: "no path" },
      "scrap",
    ],
  };

  it("carries its code, its sentence and the fields at fault", () => {
    const problem = new Problem(422, body);
    expect([problem.status, problem.code, problem.message]).toEqual([
      422,
      "not_valid",
      "Two fields are wrong.",
    ]);
    expect(problem.errors).toHaveLength(2);
  });

  it("finds the message for a field by the end of its path, and never by a part of a name", () => {
    const problem = new Problem(422, body);
    expect(problem.for("spoke")).toBe("There is no R40.");
    expect(problem.for("rim.erd_mm")).toBe("ERD must be larger than the hub.");
    expect(problem.for("erd_mm")).toBe("ERD must be larger than the hub.");
    expect(problem.for("d_mm")).toBeUndefined();
    expect(problem.for("oke")).toBeUndefined();
  });

  it("keeps both versions of a conflict", () => {
    const problem = new Problem(409, { title: "stale", current: { version: 3 }, yours: { version: 2 } });
    expect(problem.current).toEqual({ version: 3 });
    expect(problem.yours).toEqual({ version: 2 });
  });

  it.each([undefined, null, "<html>Bad gateway</html>", [], { detail: 5 }])(
    "has a sentence even for %j",
    (scrap) => {
      const problem = new Problem(502, scrap);
      expect(problem.message).toBe("The server answered 502.");
      expect(problem.errors).toEqual([]);
      expect(problem.code).toBe("unknown");
    },
  );

  it("is told as its own sentence", () => {
    expect(sentenceOf(new Problem(422, body))).toBe("Two fields are wrong.");
    expect(sentenceOf("scrap")).toBe("Something went wrong.");
  });
});

describe("asking the server", () => {
  beforeEach(() => {
    stubTablet(storage(), "other=1; csrftoken=a%2Fb; last=2");
    vi.resetModules();
  });

  const asked = () => import("./client");

  it("gives the data of a good answer", async () => {
    server(says(200, { number: 7 }));
    const { answer, client } = await asked();
    const job = answer(client.GET("/api/v1/jobs/{job_id}", { params: { path: { job_id: "x" } } }));
    await expect(job).resolves.toEqual({ number: 7 });
  });

  it("throws the refusal of a bad one, with its status", async () => {
    server(refuses(404, "not_found"));
    const { answer, client } = await asked();
    const job = answer(client.GET("/api/v1/jobs/{job_id}", { params: { path: { job_id: "x" } } }));
    await expect(job).rejects.toMatchObject({
      status: 404,
      code: "not_found",
      message: "It says not_found.",
    });
  });

  it.each([400, 403, 404, 409, 413, 500, 502])(
    "takes a %i that is not Felloe's own for no refusal",
    async (status) => {
      server(between(status));
      const { answer, client } = await asked();
      const job = answer(client.GET("/api/v1/jobs/{job_id}", { params: { path: { job_id: "x" } } }));
      await expect(job).rejects.toMatchObject({
        status,
        message: expect.stringContaining("between") as string,
      });
    },
  );

  it("takes a database that is away for a server that cannot be reached", async () => {
    server(refuses(503, "database_away"));
    const { answer, client } = await asked();
    const job = answer(client.GET("/api/v1/jobs/{job_id}", { params: { path: { job_id: "x" } } }));
    await expect(job).rejects.toMatchObject({ status: undefined, message: "The server cannot be reached." });
  });

  it("tells Felloe's own fault from a refusal", async () => {
    server(refuses(500, "server_fault"));
    const { answer, client } = await asked();
    const job = answer(client.GET("/api/v1/jobs/{job_id}", { params: { path: { job_id: "x" } } }));
    await expect(job).rejects.toThrow("a fault of its own");
  });

  it("says for whom it speaks on every write, and to nobody's harm on reads", async () => {
    const sent: (string | null)[] = [];
    vi.stubGlobal("fetch", (request: Request) => {
      sent.push(request.headers.get("X-Felloe-Person"));
      return Promise.resolve(says(200, {})());
    });
    const { answer, client, speaksFor } = await asked();
    speaksFor("bram");
    await answer(client.GET("/api/v1/rail"));
    await answer(client.PATCH("/api/v1/session", { body: { force_unit: "N" } }));
    expect(sent).toEqual([null, "bram"]);
  });

  it("says plainly when nothing answers", async () => {
    server(down);
    const { answer, client } = await asked();
    const job = answer(client.GET("/api/v1/jobs/{job_id}", { params: { path: { job_id: "x" } } }));
    await expect(job).rejects.toThrow("The server cannot be reached.");
  });

  it("shows the cookie's token on writes and not on reads", async () => {
    const sent = server(says(200, {}));
    const { answer, client } = await asked();
    await answer(client.GET("/api/v1/jobs/{job_id}", { params: { path: { job_id: "x" } } }));
    await answer(client.POST("/api/v1/session", { body: { username: "bram", password: "x" } as never }));
    expect(sent.map((s) => [s.method, s.csrf])).toEqual([
      ["GET", null],
      ["POST", "a/b"],
    ]);
  });

  it("makes a write key that is new each time", async () => {
    const { writeKey } = await asked();
    const keys = new Set(Array.from({ length: 200 }, writeKey));
    expect(keys.size).toBe(200);
    for (const key of keys) expect(key).toMatch(/^[0-9a-f]{32}$/);
  });
});
