import { create } from "zustand";
import { persist } from "zustand/middleware";
import type { Unit } from "@/geometry/lengths";

interface UnitState {
  unit: Unit;
  measureIn(unit: Unit): void;
}

/** The unit of lengths where no design is open: on the bench of a job, and on the shelf. */
export const useBenchUnit = create<UnitState>()(
  persist((set) => ({ unit: "mm", measureIn: (unit) => set({ unit }) }), { name: "gladstack-unit" }),
);
