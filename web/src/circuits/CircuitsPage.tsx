import { useMedia } from "../ui/useMedia";
import { CircuitGrid } from "./CircuitGrid";
import { PhoneCircuits } from "./PhoneCircuits";

/** The lattice as the screen allows: whole, or card by card. */
export function CircuitsPage() {
  return useMedia("(max-width: 767px)") ? <PhoneCircuits /> : <CircuitGrid />;
}
