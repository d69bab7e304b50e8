import { beforeEach, onTestFailed } from "vitest";
import { shared } from "./browser";

let hasFailed = false;

/**
 * The tests of a file are one sitting at the bench: after one that failed the others have nothing to stand on.
 * What the page said when it failed is printed, so that a fault is seen even if the second go (see `run.ts`) is well.
 */
beforeEach(({ task, skip }) => {
  if (hasFailed) skip("a test before it failed");
  onTestFailed(async () => {
    hasFailed = true;
    const said = await shared?.page
      .evaluate(() => ({
        path: location.pathname,
        focus: document.activeElement?.outerHTML.slice(0, 200),
        header: [...document.querySelectorAll("header p, header button, header [role]")].map((one) => one.textContent),
        said: (window as { said?: string[] }).said?.slice(-12),
        rack: document.querySelector("[role=listbox]")?.textContent,
        main: document.querySelector("main")?.textContent.slice(0, 1500),
      }))
      .catch((error) => String(error));
    console.error(`“${task.name}”: the page when it failed`, said, shared?.complaints);
  });
});
