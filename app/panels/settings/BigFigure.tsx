interface BigFigureProps {
  /** What it is, as a screen reader says it. */
  name: string;
  testId?: string;
  figure: string;
  /** Its unit and what it measures, and what it was before. */
  says: string;
  was: string;
}

/** The one large figure of a panel, with its unit and what it was. */
export function BigFigure({ name, testId = 'measure', figure, says, was }: BigFigureProps) {
  return (
    <section aria-label={name} className="flex items-baseline gap-2.5">
      <b data-testid={testId} className="text-[2.4rem] leading-none font-semibold tabular-nums">
        {figure}
      </b>
      <span className="leading-tight text-ink-2">
        {says}
        <br />
        {was}
      </span>
    </section>
  );
}
