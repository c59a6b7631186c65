import { createHash } from "node:crypto";
import type { Plugin } from "vite";

const FILE = "service-worker.js";

/** Builds the service worker with the list of all files of the build in it, each by its content. */
export function serviceWorker(): Plugin {
  return {
    name: "service-worker",
    apply: "build",
    buildStart() {
      this.emitFile({ type: "chunk", id: "src/offline/serviceWorker.ts", fileName: FILE });
    },
    generateBundle: {
      order: "post",
      handler(_, bundle) {
        const files = Object.values(bundle)
          .filter(({ fileName }) => fileName !== FILE && !fileName.endsWith(".map"))
          .map((file) => {
            const content = file.type === "chunk" ? file.code : file.source;
            const revision = createHash("sha256").update(content).digest("hex").slice(0, 16);
            return { url: `/${file.fileName}`, revision };
          });
        const worker = bundle[FILE];
        if (worker?.type !== "chunk" || !worker.code.includes("__BUILT_FILES__"))
          throw new Error("The service worker has no place for the list of files.");
        // As a module it would be fetched without the cookie that says the phone is paired.
        if (worker.imports.length) throw new Error("The service worker has to be one file.");
        worker.code = worker.code.replace("__BUILT_FILES__", JSON.stringify(files));
      },
    },
  };
}
