/** The product's mark: a joint in cross-section, one film laid over the edge of another on its ground. */
export function Mark({ className }: { className?: string }) {
  return <img src="/icon.svg" alt="" className={className} />;
}
