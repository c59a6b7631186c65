import { HoverCard } from "radix-ui";
import type { ReactNode } from "react";
import type { Circuit } from "../api/client";
import { useJob } from "../job/JobContext";
import { MethodPicture } from "./MethodPicture";

/** The methods of a run in words, each with its picture, while the pointer is over their short names. */
export function MethodWords({ circuit, children }: { circuit: Circuit; children: ReactNode }) {
  return (
    <HoverCard.Root openDelay={200} closeDelay={50}>
      <HoverCard.Trigger asChild>{children}</HoverCard.Trigger>
      <HoverCard.Portal>
        <HoverCard.Content
          side="bottom"
          align="start"
          sideOffset={6}
          className="z-40 max-w-80 rounded-lg border border-line bg-sheet p-2.5 text-[12.5px] shadow-lg"
        >
          <Methods circuit={circuit} />
        </HoverCard.Content>
      </HoverCard.Portal>
    </HoverCard.Root>
  );
}

function Methods({ circuit }: { circuit: Circuit }) {
  const { rules } = useJob();
  return (
    <ul className="flex flex-col gap-1.5" data-testid="method-words">
      {circuit.run.map((section, at) => {
        const method = rules.methods.find((known) => known.id === section.method);
        return (
          <li key={at} className="flex items-center gap-2">
            <MethodPicture name={method?.picture ?? ""} />
            <span>
              <b className="font-semibold">{method?.short ?? section.method}</b> {method?.title}
              {section.length_m ? <span className="figure text-soft"> · {section.length_m} m</span> : null}
            </span>
          </li>
        );
      })}
    </ul>
  );
}
