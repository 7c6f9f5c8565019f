/** Whether keys are meant for text that is typed, or for a panel that is open. */
export function isTyping(event: KeyboardEvent): boolean {
  const at = event.target;
  return (
    at instanceof HTMLInputElement ||
    at instanceof HTMLTextAreaElement ||
    at instanceof HTMLSelectElement ||
    (at instanceof Element && at.closest('[role="dialog"], [role="menu"]') !== null)
  );
}
