/** Beside a field: why what was typed in it was refused. */
export function Refused({ id, why }: { id: string; why: string | null }) {
  if (why === null) return null;
  return (
    <span id={id} role="alert" className="max-w-56 text-sm text-failink">
      {why}
    </span>
  );
}
