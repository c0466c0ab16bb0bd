/** Stands where the writing area will be while it is loaded. */
export function WritingSkeleton() {
  return (
    <div role="status" data-writing-comes className="grid gap-3">
      <span className="sr-only">The writing area is loading.</span>
      <div className="h-12 rounded-[10px] bg-paper" />
      <div className="h-4 w-5/6 rounded-s bg-paper" />
      <div className="h-4 w-4/6 rounded-s bg-paper" />
      <div className="h-4 w-5/6 rounded-s bg-paper" />
    </div>
  );
}
