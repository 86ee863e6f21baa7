import { keep } from "./store";

/** Readings that an earlier Felloe kept in this tablet's local storage. */
export async function bringOver(): Promise<void> {
  const prefix = "felloe.outbox.";
  for (const slot of Object.keys(localStorage)
    .filter((name) => name.startsWith(prefix))
    .sort()) {
    try {
      const old = JSON.parse(localStorage.getItem(slot) ?? "") as {
        key: string;
        setId: string;
        userId: string;
        body: unknown;
      };
      await keep({
        seq: 0,
        key: old.key,
        by: old.userId,
        byName: "",
        deed: "reading",
        target: { set_id: old.setId },
        body: old.body,
        at: new Date().toISOString(),
        href: "/",
        state: "waiting",
        stumbles: 0,
      });
    } catch (error) {
      // A scrap that cannot be read holds nothing; a storage that is full keeps what it has.
      if (!(error instanceof SyntaxError)) return;
    }
    localStorage.removeItem(slot);
  }
}
