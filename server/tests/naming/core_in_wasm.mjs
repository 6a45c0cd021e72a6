// Runs test modules of the core in the Python that runs in browsers. Arguments: the checkout, a folder of packages, then
// the modules.
import { createRequire } from "node:module";
import { pathToFileURL } from "node:url";

const [root, packages, ...modules] = process.argv.slice(2);
const { resolve } = createRequire(`${root}/web/package.json`);
const { loadPyodide } = await import(pathToFileURL(resolve("pyodide/pyodide.mjs")).href);

const python = await loadPyodide();
python.mountNodeFS("/project", root);
python.mountNodeFS("/packages", packages);
python.globals.set("modules", python.toPy(modules));
const told = await python.runPythonAsync(`
import io, json, sys, unittest
sys.path[:0] = ["/project", "/packages"]
out = io.StringIO()
done = unittest.TextTestRunner(out).run(unittest.defaultTestLoader.loadTestsFromNames(modules))
json.dumps({"version": sys.version_info[:2], "ran": done.testsRun, "well": done.wasSuccessful(), "said": out.getvalue()})
`);
process.stdout.write(`${told}\n`);
