import type { Names } from "@core/steps";
import { useProject } from "@stores/document";
import { useMemo } from "react";

/** What steps name, in words; the same object as long as none of it changed. */
export function useNames(): Names {
  const poses = useProject((project) => project.poses);
  const routines = useProject((project) => project.routines);
  const sources = useProject((project) => project.sources);
  return useMemo(() => {
    const inWords = (words: Iterable<readonly [string, string]>) => {
      const known = new Map(words);
      return (id: string) => known.get(id) ?? "?";
    };
    return {
      pose: inWords(poses.map((one) => [one.id, one.name] as const)),
      routine: inWords(routines.map((one) => [one.id, one.name] as const)),
      source: inWords(sources.map((one) => [one.id, one.label] as const)),
    };
  }, [poses, routines, sources]);
}
