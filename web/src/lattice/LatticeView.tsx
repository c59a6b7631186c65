import { useMedia } from "../ui/useMedia";
import { Lattice } from "./Lattice";
import { Pocket } from "./Pocket";

/** The lattice as the screen allows: whole, or card by card. */
export function LatticeView() {
  return useMedia("(max-width: 767px)") ? <Pocket /> : <Lattice />;
}
