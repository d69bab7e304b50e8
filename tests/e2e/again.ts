import { beforeEach, onTestFailed } from "vitest";
import { openAnew, shared } from "./browser";

/**
 * A test that failed on a machine that was busy for seconds gets one more go, on a page as on a first visit;
 * what its page said when it failed is printed, so that a real fault is seen even if the second go is well.
 */
beforeEach(async ({ task }) => {
  onTestFailed(async () => {
    const said = await shared?.page
      .evaluate(() => ({
        path: location.pathname,
        focus: document.activeElement?.outerHTML.slice(0, 200),
        header: document.querySelector("header")?.textContent.slice(0, 400),
        main: document.querySelector("main")?.textContent.slice(0, 1500),
      }))
      .catch((error) => String(error));
    console.error(`“${task.name}”: the page when it failed`, said);
  });
  if (task.result?.retryCount) await openAnew();
});
