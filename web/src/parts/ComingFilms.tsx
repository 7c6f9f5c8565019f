/** Three quiet films, where a design is still to come. */
export function ComingFilms({ className = "", still = false }: { className?: string; still?: boolean }) {
  return (
    <svg viewBox="0 0 60 30" className={`${className} ${still ? "" : "motion-safe:animate-pulse"}`} aria-hidden="true">
      <path d="M6 22h48" stroke="#b9b3a4" strokeWidth="4" />
      <path d="M14 15h32" stroke="#cfc9bb" strokeWidth="4" />
      <path d="M24 8h12" stroke="#ded9cd" strokeWidth="4" />
    </svg>
  );
}
