import type { Load } from "../../api/client";
import { t } from "../../messages/text";
import { Button } from "../../ui/Button";
import { fromYesNo, YES_NO, yesNo } from "../../ui/Check";
import { Choice, FigureField } from "../../ui/Field";

type Device = NonNullable<Load["open_pen_device"]>;

/** How a charging point is protected when the PEN conductor breaks: whether it is, and the thresholds of its device. */
export function OpenPenPart({ load, set }: { load: Load; set: (part: Partial<Load>) => void }) {
  const device = load.open_pen_device;
  const put = (part: Partial<Device>) => device && set({ open_pen_device: { ...device, ...part } });
  return (
    <>
      {!device && (
        <Choice
          label={t("web.circuit.leakage.pen")}
          value={yesNo(load.open_pen_protection)}
          options={YES_NO}
          onCommit={(value) => set({ open_pen_protection: fromYesNo(value) })}
        />
      )}
      {device ? (
        <>
          <Choice
            label={t("web.circuit.open_pen.detects")}
            value={device.detects}
            options={[
              { value: "touch-voltage", label: t("web.circuit.open_pen.touch") },
              { value: "supply-voltage", label: t("web.circuit.open_pen.supply") },
            ]}
            onCommit={(detects) => put({ detects: detects as Device["detects"] })}
          />
          {device.detects === "touch-voltage" ? (
            <FigureField
              label={t("web.circuit.open_pen.threshold")}
              unit="V"
              value={device.threshold_v}
              onCommit={(threshold_v) => put({ threshold_v })}
            />
          ) : (
            <>
              <FigureField
                label={t("web.circuit.open_pen.low")}
                unit="V"
                value={device.low_v}
                onCommit={(low_v) => put({ low_v })}
              />
              <FigureField
                label={t("web.circuit.open_pen.high")}
                unit="V"
                value={device.high_v}
                onCommit={(high_v) => put({ high_v })}
              />
            </>
          )}
          <FigureField
            label={t("web.circuit.open_pen.within")}
            unit="s"
            value={device.within_s}
            onCommit={(within_s) => put({ within_s })}
          />
          <Choice
            label={t("web.circuit.open_pen.earth")}
            value={yesNo(device.disconnects_earth)}
            options={YES_NO}
            onCommit={(value) => put({ disconnects_earth: fromYesNo(value) })}
          />
          <Button variant="quiet" className="mt-5 self-start" onClick={() => set({ open_pen_device: null })}>
            {t("web.circuit.open_pen.without")}
          </Button>
        </>
      ) : (
        <Button
          variant="quiet"
          className="mt-5 self-start"
          onClick={() => set({ open_pen_device: { detects: "touch-voltage" } })}
        >
          {t("web.circuit.open_pen.data")}
        </Button>
      )}
    </>
  );
}
