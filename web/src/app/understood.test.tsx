import { i18n } from "@lingui/core";
import { msg, plural, t as say } from "@lingui/core/macro";
import { I18nProvider } from "@lingui/react";
import { Plural, Trans } from "@lingui/react/macro";
import { renderToStaticMarkup } from "react-dom/server";
import { beforeAll, expect, test } from "vitest";

// English stands in the code, and is understood when the page is built: a tablet has nothing that could parse it.
beforeAll(() => {
  i18n.setMessagesCompiler((text) => {
    throw new Error(`not understood: ${text}`);
  });
});

test("what is said by a sentence, with a value, with one of a number, and by a descriptor", () => {
  const [spoke, count] = ["R4", 3];
  expect(say`Dish`).toBe("Dish");
  expect(say`Tension of ${spoke}: it’s 5`).toBe("Tension of R4: it’s 5");
  expect(plural(count, { one: "# nipple", other: "# nipples" })).toBe("3 nipples");
  expect(i18n._(msg`On hook ${spoke}`)).toBe("On hook R4");
});

test("what is drawn, with elements and values in it", () => {
  const [spoke, count] = ["R4", 1];
  const drawn = renderToStaticMarkup(
    <I18nProvider i18n={i18n}>
      <Trans>
        Turn <b>{spoke}</b> <Plural value={count} one="# notch" other="# notches" />
      </Trans>
    </I18nProvider>,
  );
  expect(drawn).toBe("Turn <b>R4</b> 1 notch");
});
