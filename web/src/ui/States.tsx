/** Something is on its way. */
export function Waiting({ text }: { text: string }) {
  return (
    <div className="grid flex-1 place-items-center p-8" role="status">
      <div className="text-center">
        <svg viewBox="0 0 220 60" width="220" aria-hidden="true" className="mx-auto pb-3">
          <path d="M10 14H180Q205 14 212 8Q206 44 170 46H22Z" fill="none" stroke="var(--hair)" strokeWidth="1.8" />
          <path d="M0 34H220" stroke="var(--color-secondary)" strokeWidth="1.5" />
        </svg>
        <p className="quiet">{text}</p>
      </div>
    </div>
  );
}

/** Something did not work, and what can be done. */
export function ErrorNote({ text, onRetry }: { text: string; onRetry?: () => void }) {
  return (
    <div className="grid flex-1 place-items-center p-8" role="alert">
      <div className="max-w-md border border-accent bg-base-100 p-5">
        <p>{text}</p>
        {onRetry && (
          <button type="button" className="plain-button mt-3" onClick={onRetry}>
            Try again
          </button>
        )}
      </div>
    </div>
  );
}

/** The faults of a form, each naming what would be right. */
export function Faults({ text, details }: { text?: string; details: string[] }) {
  if (!text) return null;
  return (
    <div role="alert" className="border border-accent px-3 py-2">
      <p className="text-loud">
        <b>{text}</b>
      </p>
      {details.length > 0 && (
        <ul className="list-disc pl-5 text-sm">
          {details.map((d) => (
            <li key={d}>{d}</li>
          ))}
        </ul>
      )}
    </div>
  );
}
