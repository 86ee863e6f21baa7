import { describe, expect, it } from "vitest";
import { jobOnTag, scanner } from "./scan";

const ID = "0f8fad5b-d9cb-469f-a165-70867728950e";
const ADDRESS = `http://shop.local:8000/jobs/${ID}`;

function type(text: string, typed = false) {
  const follows = scanner();
  const heard: string[] = [];
  let job: string | undefined;
  for (const key of [...text, "Enter"]) {
    const pressed = follows.press(key, typed);
    if (!pressed.swallow) heard.push(key);
    job = pressed.job ?? job;
  }
  return { job, heard: heard.join("") };
}

describe("a tag's code", () => {
  it("names its job, and nothing else does", () => {
    expect(jobOnTag(ADDRESS)).toBe(ID);
    expect(jobOnTag(`https://x.example/jobs/${ID.toUpperCase()}?a=1`)).toBe(ID);
    for (const no of ["", "101", `/jobs/${ID}`, "http://x/jobs/12", `ftp://x/jobs/${ID}`])
      expect(jobOnTag(no)).toBeUndefined();
  });
});

describe("a hand scanner", () => {
  it("opens the job from anywhere, and the bench hears no key of it after the beginning", () => {
    expect(type(ADDRESS)).toEqual({ job: ID, heard: "http" });
  });

  it("is heard in the middle of other keys, and once more", () => {
    expect(type(`12h34${ADDRESS}`).job).toBe(ID);
    expect(type(`HTTPS://SHOP/JOBS/${ID.toUpperCase()}`).job).toBe(ID);
  });

  it("types into a field like anybody, and is a scan all the same", () => {
    expect(type(ADDRESS, true)).toEqual({ job: ID, heard: ADDRESS });
  });

  it("is not what a person types", () => {
    for (const text of ["the rim hops", "1234", "http://nowhere"]) expect(type(text).job).toBeUndefined();
    expect(type("the rim hops").heard).toBe("the rim hopsEnter");
  });
});
