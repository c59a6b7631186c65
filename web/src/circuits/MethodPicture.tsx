import type { ReactNode } from "react";

const CABLE = "fill-accent";
const WALL = "fill-line";
const SOFT = "fill-none stroke-pass";

/** A cut through the wall, ceiling or ground, with the cable in it. Drawn for us; it follows no publication's figures. */
const PICTURES: Record<string, ReactNode> = {
  clipped: (
    <>
      <rect x="2" y="4" width="9" height="32" className={WALL} />
      <circle cx="15" cy="20" r="4" className={CABLE} />
    </>
  ),
  conduit: (
    <>
      <rect x="2" y="4" width="9" height="32" className={WALL} />
      <circle cx="21" cy="20" r="8" className={SOFT} strokeWidth="2" />
      <circle cx="21" cy="21" r="3.5" className={CABLE} />
    </>
  ),
  "insulated-wall": (
    <>
      <rect x="2" y="4" width="5" height="32" className={WALL} />
      <rect x="33" y="4" width="5" height="32" className={WALL} />
      <path d="M9 8l6 4-6 4 6 4-6 4 6 4-6 4M31 8l-6 4 6 4-6 4 6 4-6 4 6 4" className={SOFT} />
      <circle cx="12" cy="20" r="4" className={CABLE} />
    </>
  ),
  buried: (
    <>
      <rect x="2" y="12" width="36" height="24" className={WALL} />
      <path d="M2 12h36" className={SOFT} strokeWidth="2" />
      <circle cx="20" cy="27" r="4" className={CABLE} />
    </>
  ),
  duct: (
    <>
      <rect x="2" y="12" width="36" height="24" className={WALL} />
      <path d="M2 12h36" className={SOFT} strokeWidth="2" />
      <circle cx="20" cy="25" r="8" className="fill-sheet stroke-pass" strokeWidth="2" />
      <circle cx="20" cy="27" r="3.5" className={CABLE} />
    </>
  ),
  tray: (
    <>
      <path d="M4 28h32M8 28v4M16 28v4M24 28v4M32 28v4" className={SOFT} strokeWidth="2" />
      <circle cx="20" cy="22" r="4" className={CABLE} />
    </>
  ),
  "loft-thin": (
    <>
      <rect x="2" y="32" width="36" height="4" className={WALL} />
      <path d="M4 24l5 5 5-5 5 5 5-5 5 5 5-5" className={SOFT} />
      <circle cx="20" cy="28" r="4" className={CABLE} />
    </>
  ),
  "loft-thick": (
    <>
      <rect x="2" y="32" width="36" height="4" className={WALL} />
      <path
        d="M4 8l5 5 5-5 5 5 5-5 5 5 5-5M4 16l5 5 5-5 5 5 5-5 5 5 5-5M4 24l5 5 5-5 5 5 5-5 5 5 5-5"
        className={SOFT}
      />
      <circle cx="20" cy="28" r="4" className={CABLE} />
    </>
  ),
  "stud-touching": (
    <>
      <rect x="2" y="4" width="5" height="32" className={WALL} />
      <path d="M12 8l6 4-6 4 6 4-6 4 6 4-6 4M22 8l6 4-6 4 6 4-6 4 6 4-6 4" className={SOFT} />
      <circle cx="11" cy="20" r="4" className={CABLE} />
    </>
  ),
  "stud-clear": (
    <>
      <rect x="2" y="4" width="5" height="32" className={WALL} />
      <path d="M9 8l6 4-6 4 6 4-6 4 6 4-6 4M28 8l6 4-6 4 6 4-6 4 6 4-6 4" className={SOFT} />
      <circle cx="21" cy="20" r="4" className={CABLE} />
    </>
  ),
};

/** A small picture of a method of installation. */
export function MethodPicture({ name }: { name: string }) {
  const picture = PICTURES[name];
  if (!picture) return null;
  return (
    <svg viewBox="0 0 40 40" width="30" height="30" aria-hidden className="shrink-0">
      {picture}
    </svg>
  );
}
