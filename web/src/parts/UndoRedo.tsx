interface UndoRedoProps {
  /** What would be taken back and made again, if anything. */
  undoes: string | null;
  redoes: string | null;
  onStep(which: "undo" | "redo"): unknown;
}

/** One step back and one forward, each with the name of the step. */
export function UndoRedo({ undoes, redoes, onStep }: UndoRedoProps) {
  return (
    <>
      <StepButton text="Undo" step={undoes} onStep={() => onStep("undo")} />
      <StepButton text="Redo" step={redoes} onStep={() => onStep("redo")} />
    </>
  );
}

function StepButton({ text, step, onStep }: { text: string; step: string | null; onStep(): unknown }) {
  const says = step === null ? `There is nothing to ${text.toLowerCase()}` : `${text}: ${step}`;
  return (
    <button
      type="button"
      className="act flex h-9 flex-col justify-center py-0 text-left leading-tight"
      disabled={step === null}
      aria-label={step === null ? text : says}
      title={says}
      onClick={onStep}
    >
      {text}
      {step !== null && <span className="block max-w-28 truncate text-[0.6875rem] text-soft">{step}</span>}
    </button>
  );
}
