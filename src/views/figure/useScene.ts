import { type Assembly, assemble, figuresOnBench } from "@core/figure";
import type { Figure, Joint, Thing } from "@core/project";
import type { MeshOf } from "@core/shapes";
import { useProject } from "@stores/document";
import { useMemo } from "react";

/** All that stands on the bench, ready to be drawn. */
export interface Scene {
  readonly figures: readonly Figure[];
  readonly assembly: Assembly;
  readonly joints: readonly Joint[];
  readonly things: readonly Thing[];
  readonly meshOf: MeshOf;
}

/** The scene of the bench, of all its rigs; made anew only when something of it has changed. */
export function useScene(): Scene {
  const figures = useProject((project) => project.figures);
  const rigs = useProject((project) => project.rigs);
  const joints = useProject((project) => project.joints);
  const things = useProject((project) => project.things);
  const meshes = useProject((project) => project.meshes);
  return useMemo(() => {
    const standing = figuresOnBench({ figures, rigs, joints });
    return {
      figures: standing,
      assembly: assemble(
        standing,
        joints.map(({ id }) => id),
      ),
      joints,
      things,
      meshOf: (id) => meshes.find((mesh) => mesh.id === id),
    };
  }, [figures, rigs, joints, things, meshes]);
}
