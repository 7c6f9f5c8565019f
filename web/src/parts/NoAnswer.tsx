interface Asked {
  readonly data: unknown;
  readonly error: Error | null;
  readonly isFetching: boolean;
  refetch(): unknown;
}

/** Says why something is not there, and asks for it again; nothing where it is there. */
export function NoAnswer({ asked, children }: { asked: Asked; children: string }) {
  if (!asked.error || asked.data !== undefined) return null;
  return (
    <p className="flex flex-wrap items-baseline gap-3 py-2">
      <span className="text-fail">
        {children}: {asked.error.message}
      </span>
      <button type="button" className="act text-sm" disabled={asked.isFetching} onClick={() => asked.refetch()}>
        Try again
      </button>
    </p>
  );
}
