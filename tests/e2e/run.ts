import { startVitest } from "vitest/node";

/**
 * Runs the end-to-end tests; two files at a time; a file that failed goes once more, whole, alone and in a fresh browser: the machine may have
 * stood still for seconds. What failed the first time stays in the output, with what its page said. Files can be named.
 */
const failedOf = async (files: string[], isAlone: boolean): Promise<string[]> => {
  const alone = isAlone ? { fileParallelism: false } : {};
  const run = await startVitest("test", files, { config: "vitest.e2e.config.ts", watch: false, ...alone });
  await run.close();
  const failed = run.state.getFailedFilepaths();
  // Nothing found, or something broke outside any test: no second go makes that well.
  if (failed.length === 0 && process.exitCode) process.exit(process.exitCode);
  return failed;
};

const failed = await failedOf(process.argv.slice(2), false);
if (failed.length > 0) {
  console.log(`\n== Once more, in a fresh browser: ${failed.map((path) => path.split("/").at(-1)).join(", ")}`);
  process.exitCode = 0;
  if ((await failedOf(failed, true)).length > 0) process.exitCode = 1;
}
process.exit();
