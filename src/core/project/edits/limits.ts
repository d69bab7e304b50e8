interface Issue {
  readonly code?: string;
  readonly message?: string;
  readonly expected?: string;
  readonly minimum?: number | bigint;
  readonly maximum?: number | bigint;
  readonly inclusive?: boolean;
}

/** What a number may be, as a person would be told, from what the schema complains of. */
export function limitSentence(issue: Issue | undefined): string {
  if (issue?.minimum !== undefined)
    return issue.inclusive === false
      ? `This must be more than ${issue.minimum}.`
      : `This must be at least ${issue.minimum}.`;
  if (issue?.maximum !== undefined) return `This can be at most ${issue.maximum}.`;
  if (issue?.code === "custom" && issue.message) return `This cannot be: ${issue.message}.`;
  if (issue?.expected === "int") return "This must be a whole number.";
  return issue?.expected === "number" ? "This must be a number." : "This does not fit here.";
}
