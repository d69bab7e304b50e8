import type { APIRoute } from "astro";

export const prerender = false;

/** Says that the server is up; `bin/start` and the tests wait for it. */
export const GET: APIRoute = () => Response.json({ service: "vantel", ok: true });
