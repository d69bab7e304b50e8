import { createElement, type FunctionComponent, lazy } from "react";

/** Lays out anew what could not be fetched. */
const failed = new Set<() => void>();

/** What could not be fetched is fetched anew when it is shown next. Not before: React itself tries to show again what failed, and would go on for ever. */
export function fetchAnew(): void {
  for (const renew of failed) renew();
  failed.clear();
}

/** A component that is fetched when it is first shown (`lazy`). Where that fails, `Guard` catches it. */
export function lazily<Props extends object>(
  load: () => Promise<{ readonly default: FunctionComponent<Props> }>,
): FunctionComponent<Props> {
  const begin = () =>
    lazy<FunctionComponent<Props>>(() =>
      load().catch((error) => {
        failed.add(() => {
          fetched = begin();
        });
        throw error;
      }),
    );
  let fetched = begin();
  return (props) => createElement(fetched as FunctionComponent<Props>, props);
}
