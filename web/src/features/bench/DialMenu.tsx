import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { Menu, MenuItem } from "@/ui/Menu";
import type { Dial } from "./useDial";

/** Which dial looks at the rim after each nipple, and past what. */
export function DialMenu({
  streaming,
  dial,
  onChoose,
}: {
  streaming: readonly Schemas["Instrument"][];
  dial: Dial | null;
  onChoose: (dial: Dial | null) => void;
}) {
  const ways = [
    { kinds: ["lateral"] as const, text: say`lateral` },
    { kinds: ["radial"] as const, text: say`radial` },
    { kinds: ["lateral", "radial"] as const, text: say`lateral, then radial` },
  ];
  const name = streaming.find((i) => i.id === dial?.instrument)?.name;
  const shown = name ?? say`Looked at by hand`;
  return (
    <Menu label={say`${shown}: how the rim is looked at`} trigger={shown} givesBack={false}>
      {streaming.flatMap((instrument) =>
        ways.map((way) => (
          <MenuItem
            key={`${instrument.id} ${way.text}`}
            onSelect={() => onChoose({ instrument: instrument.id, kinds: way.kinds })}
          >
            {instrument.name}: {way.text}
          </MenuItem>
        )),
      )}
      <MenuItem onSelect={() => onChoose(null)}>
        <Trans>By hand or by eye</Trans>
      </MenuItem>
    </Menu>
  );
}
