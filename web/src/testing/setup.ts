// the modules under test ask for their origin when they are loaded; no test goes to it
Object.assign(globalThis, { location: { origin: "http://localhost" } });
