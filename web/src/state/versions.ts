import type { DesignLine } from "@/api/client";

/** The design that a name stands for, which may be that of one of its versions: the id, a tilde, the version's. */
export function motifOf(ref: string): string {
  return ref.split("~")[0] ?? ref;
}

/** The name that stands for a version of the design that a name stands for; null for the motif itself. */
export function versionOf(ref: string, version: string | null): string {
  return version === null ? motifOf(ref) : `${motifOf(ref)}~${version}`;
}

/** Something that a job can be made of: a design, or one of its versions. */
export interface Cuttable {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
}

/** All that can be cut, each design before its versions. */
export function cuttable(lines: readonly DesignLine[]): Cuttable[] {
  return lines.flatMap(({ id, name, revision, versions }) => [
    { id, name, revision },
    ...versions.map((version) => ({ id: version.id, name: `${name}, ${version.name}`, revision })),
  ]);
}
