import { useQuery } from "@tanstack/react-query";
import { Smartphone } from "lucide-react";
import { useState } from "react";
import { pairingQuery } from "../api/queries";
import { t } from "../messages/text";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { Segments } from "../ui/Segments";

/** How a phone gets at the jobs of this machine: a code to scan, and what it has to trust to work without the network. */
export function PairPhone() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button variant="quiet" onClick={() => setOpen(true)}>
        <Smartphone size={16} aria-hidden /> {t("web.phone.button")}
      </Button>
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title={t("web.phone.title")}
        description={t("web.phone.text")}
      >
        {open && <Pairing />}
      </Dialog>
    </>
  );
}

function Pairing() {
  const pairing = useQuery(pairingQuery);
  const [at, setAt] = useState(0);
  if (pairing.error) return <p role="alert">{pairing.error.message}</p>;
  if (!pairing.data) return null;
  const { available, links = [], authority, fingerprint } = pairing.data;
  if (!available)
    return (
      <p>
        {t("web.phone.off")} <code className="figure">vivid-lattice serve --lan</code>
      </p>
    );
  const shown = links[at];
  if (!shown) return <p>{t("web.phone.no_network")}</p>;
  return (
    <div className="flex flex-col gap-3 text-[13px]">
      {links.length > 1 && (
        <Segments
          label={t("web.phone.address")}
          options={links.map(({ link }, number) => ({ id: String(number), title: new URL(link).hostname }))}
          value={String(at)}
          onChange={(id) => setAt(Number(id))}
        />
      )}
      <img
        className="w-56 self-center rounded-md bg-white"
        alt={t("web.phone.code")}
        src={`data:image/svg+xml;utf8,${encodeURIComponent(shown.svg)}`}
      />
      <a className="break-all text-accent underline" href={shown.link}>
        {shown.link}
      </a>
      <p className="text-fail">{t("web.phone.secret")}</p>
      <p>
        {t("web.phone.trust")}{" "}
        <a className="break-all text-accent underline" href={authority}>
          {authority}
        </a>
      </p>
      <p className="figure break-all text-[11px] text-soft">SHA-256 {fingerprint}</p>
    </div>
  );
}
