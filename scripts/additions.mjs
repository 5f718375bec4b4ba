// What "Where to add" in docs/architecture.md promises, tried on real additions: in a scratch copy
// each is written as its row says, the files it touched are counted (texts in other languages and
// generated code aside), the whole is built, started as a demo, and what came of it is opened.
import { execFileSync, spawn } from "node:child_process";
import {
  appendFileSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import path from "node:path";

const root = path.resolve(import.meta.dirname, "..");
const scratch = mkdtempSync("/tmp/ulpa-additions-");
const tree = path.join(scratch, "tree");
const run = (command, args, dir = tree) =>
  execFileSync(command, args, {
    cwd: dir,
    encoding: "utf8",
    env: {
      ...process.env,
      CGO_ENABLED: command === "go" && args[0] === "tool" ? "1" : "0",
    },
  });
const at = (name) => path.join(tree, name);
const put = (name, text) => writeFileSync(at(name), text);
const more = (name, text) => appendFileSync(at(name), text);
function edit(name, before, after) {
  const text = readFileSync(at(name), "utf8");
  if (!text.includes(before))
    throw new Error(`${name} no longer has: ${before}`);
  writeFileSync(at(name), text.replace(before, after));
}

const additions = {
  "kind of entry": {
    most: 3,
    write() {
      more(
        "internal/work/troughs/kinds.go",
        `
// Net is how a net over the fish was found.
type Net struct{ Holes int }

// Netted is that.
var Netted = ledger.Declare(ledger.Kind[Net]{
	Name: "fish_net", Says: func(n Net) say.Text { return say.T("The net has %s", say.Plural(n.Holes, "hole")) },
	Fields: []ledger.Field[Net]{ledger.Number("holes", "Holes in the net", func(n *Net) *int { return &n.Holes })},
})

// LookAtNet writes down how the net was found.
func LookAtNet(ctx context.Context, s *store.Store, w who.Who, act ledger.Act, n Net) error {
	if err := w.Must(who.Record); err != nil {
		return err
	}
	return keep(ctx, s, w, "troughs.LookAtNet", Netted.Name, act, n, nil)
}
`,
      );
      const page = "internal/work/troughs/pages/pages.go";
      edit(
        page,
        `		{On: "POST /fish/:id/weigh"`,
        `		{On: "POST /fish/:id/net", Answer: p.net, Ask: "/fish/{trough}/net", Send: []string{"holes", "2"}},\n		{On: "POST /fish/:id/weigh"`,
      );
      edit(
        page,
        `	add("weigh", `,
        `	add("net", troughs.Netted.Name, "The net was looked at", "Keep", of("net"), "")\n	add("weigh", `,
      );
      more(
        page,
        `
func (s Pages) net(c *gin.Context) error {
	return act(s, "net", func(f *face.Form) troughs.Net { return face.Entered(f, troughs.Netted) }, troughs.LookAtNet)(c)
}
`,
      );
    },
    opens: async (ask) =>
      ask(
        await link(ask, "/fish", /\/fish\/[0-9a-f-]{36}/),
        "The net was looked at",
      ),
  },
  "kind of task": {
    most: 2,
    write() {
      put(
        "core/round/net.go",
        `package round

import "ulpa/core/say"

// NetTask is looking at the net over fish.
var NetTask = declare(Kind{Name: "fish_net", Of: Fish})

// OfNet is what a net over fish asks for: a look, every day.
func (s Day) OfNet(t Trough) (out []Task) {
	x := s.task(NetTask, t.ID, t.Place)
	x.Before, x.Why, x.Urgency, x.Minutes = say.T("Look at the net over %s", say.Name(t.Name)), say.T("Herons come in spring."), Today, 2
	return append(out, x)
}
`,
      );
      edit(
        "internal/work/troughs/round.go",
        "return d.OfTrough(t) }",
        "return append(d.OfTrough(t), d.OfNet(t)...) }",
      );
      edit(
        "internal/work/troughs/round.go",
        "		round.FishAlarm:",
        `		round.NetTask: walk.At("/fish/", "", "Open"),\n		round.FishAlarm:`,
      );
    },
    opens: async (ask) =>
      ask(
        await link(
          ask,
          "/",
          /\/\?stop=[0-9a-f-]{36}(?="[^>]*>(?:(?!<\/a>)[^])*Long table)/,
        ),
        "Look at the net over",
      ),
  },
  "kind of thing": {
    most: 5,
    write() {
      const last = readdirSync(at("internal/base/store/migrations"))
        .sort()
        .at(-1)
        .slice(0, 5);
      const number = String(Number(last) + 1).padStart(5, "0");
      put(
        `internal/base/store/migrations/${number}_tools.sql`,
        `-- +goose Up
CREATE TABLE tool (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  name      text NOT NULL,
  retired   boolean NOT NULL DEFAULT false,
  PRIMARY KEY (school_id, id)
);
ALTER TABLE tool ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON tool
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE, DELETE ON tool TO ulpa_app;

-- +goose Down
SELECT 1;
`,
      );
      put(
        "internal/base/store/queries/tools.sql",
        `-- name: AllTools :many
SELECT * FROM tool ORDER BY name;

-- name: PutTool :exec
INSERT INTO tool (school_id, id, name, retired) VALUES ($1, $2, $3, $4)
ON CONFLICT (school_id, id) DO UPDATE SET name = excluded.name, retired = excluded.retired;

-- name: DropTool :exec
DELETE FROM tool WHERE id = $1;
`,
      );
      put(
        "internal/work/jobs/tools.go",
        `package jobs

import (
	"context"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
)

// Tool is what jobs are done with.
type Tool struct {
	ID      uuid.UUID \`json:"id"\`
	Name    string    \`json:"name"\`
	Retired bool      \`json:"retired,omitempty"\`
}

// ToolKind is how tools are set up.
var ToolKind = &things.Kind[Tool]{
	Name: "tools", One: "tool", Add: "Add a tool", Title: "Tools", About: "What jobs are done with.", May: who.Plan,
	Fields:  []ledger.Field[Tool]{ledger.Short("name", "Name", func(t *Tool) *string { return &t.Name })},
	ID:      func(t *Tool) *uuid.UUID { return &t.ID },
	Retired: func(t *Tool) *bool { return &t.Retired },
	All: func(ctx context.Context, tx *store.Tx) (out []Tool, err error) {
		rows, err := tx.AllTools(ctx)
		for _, r := range rows {
			out = append(out, Tool{r.ID, r.Name, r.Retired})
		}
		return out, err
	},
	Label: func(t Tool) string { return t.Name },
	Says:  func(Tool) say.Text { return say.T("in the shed") },
	Check: func(_ context.Context, _ *store.Tx, _, t *Tool) error {
		var e field.Errors
		t.Name = name.Take(&e, "name", t.Name, 80)
		return e.Err()
	},
	Keep: func(ctx context.Context, tx *store.Tx, _ *Tool, t Tool) error {
		return tx.PutTool(ctx, db.PutToolParams{SchoolID: tx.Who.School, ID: t.ID, Name: t.Name, Retired: t.Retired})
	},
	Drop: func(ctx context.Context, tx *store.Tx, t Tool) error { return tx.DropTool(ctx, t.ID) },
}
`,
      );
      edit(
        "internal/work/round/pages/pages.go",
        "Sort: jobs.Kind, May: who.Plan}}",
        `Sort: jobs.Kind, May: who.Plan},
			{Name: "tools", Title: jobs.ToolKind.Title, About: jobs.ToolKind.About, Sort: jobs.ToolKind, May: who.Plan}}`,
      );
      edit(
        "internal/doors/api/things.go",
        "jobs.Kind,",
        "jobs.Kind, jobs.ToolKind,",
      );
    },
    opens: (ask) => ask("/settings/tools?add=1", "Add a tool"),
  },
  "value of crops": {
    most: 2,
    write() {
      const table = "core/crop/catalogue/room.csv";
      put(
        table,
        readFileSync(at(table), "utf8")
          .trimEnd()
          .split("\n")
          .map((line, i) => line + (i ? ",0.5?" : ",root_depth_m"))
          .join("\n") + "\n",
      );
      edit("core/crop/schema.go", "	SpacingCM", "	RootDepthM float64\n	SpacingCM");
      edit(
        "core/crop/schema.go",
        `		Name:  "spacing_cm",`,
        `		Name:  "root_depth_m",
		Label: "Roots go down", Unit: "m", Group: groupStand, High: 5,
		at: func(c *Crop) any { return &c.RootDepthM },
	},
	{
		Name:  "spacing_cm",`,
      );
    },
    opens: (ask) => ask("/crops/lettuce", "Roots go down"),
  },
};

// link is the first address of a kind on a page.
async function link(ask, page, kind) {
  return (await ask(page, "")).match(kind)[0].replaceAll("&amp;", "&");
}

async function demo(then) {
  const child = spawn(
    at("bin/ulpa"),
    ["demo", "--dir", path.join(scratch, "demo"), "--port", "18900", "--fresh"],
    { stdio: ["ignore", "pipe", "inherit"] },
  );
  const ended = new Promise((r) => child.on("exit", r));
  try {
    let said = "";
    const base = await new Promise((resolve, reject) => {
      child.on("exit", () => reject(new Error(`the demo ended: ${said}`)));
      child.stdout.on("data", (b) => {
        said += b;
        const m = /^ {2}(http:\S+)$/m.exec(said);
        if (m && said.includes("Ctrl-C")) resolve(m[1]);
      });
    });
    const jar = new Map();
    const fetched = async (to, options = {}) => {
      const headers = {
        cookie: [...jar].map(([k, v]) => `${k}=${v}`).join("; "),
        origin: base,
        "sec-fetch-site": "same-origin",
      };
      const res = await fetch(base + to, {
        redirect: "manual",
        headers,
        ...options,
      });
      for (const c of res.headers.getSetCookie())
        jar.set(...c.split(";")[0].split("="));
      return res;
    };
    await fetched("/sign-in");
    const form = new URLSearchParams({
      login: "ines@ferrywharf.example",
      password: "tide-and-trellis",
    });
    const signed = await fetched("/sign-in", { method: "POST", body: form });
    if (signed.status !== 303)
      throw new Error(`nobody could sign in: ${signed.status}`);
    await then(async (to, wanted) => {
      const res = await fetched(to),
        page = await res.text();
      if (res.status !== 200 || !page.includes(wanted))
        throw new Error(
          `${to} answers ${res.status} and does not say: ${wanted}`,
        );
      return page;
    });
  } finally {
    child.kill("SIGINT");
    await ended;
  }
}

try {
  run("git", ["clone", "-q", root, tree], root);
  const more = [];
  for (const [what, addition] of Object.entries(additions)) {
    addition.write();
    run("git", ["add", "-A"]);
    const touched = run("git", ["diff", "--cached", "--name-only"])
      .trim()
      .split("\n")
      .filter((f) => !/store\/db\/|words\/\w+\.json/.test(f));
    console.log(
      `${what}: ${touched.length} files, ${addition.most} promised\n  ${touched.join("\n  ")}`,
    );
    if (touched.length > addition.most) more.push(what);
    run("git", [
      "-c",
      "user.name=x",
      "-c",
      "user.email=x@example.org",
      "commit",
      "-qm",
      what,
    ]);
  }
  run(
    "go",
    ["tool", "-modfile=../../../tools/go.mod", "sqlc", "generate"],
    at("internal/base/store"),
  );
  run("go", ["build", "-tags", "nomsgpack", "-o", "bin/ulpa", "./cmd/ulpa"]);
  await demo(async (ask) => {
    for (const [what, addition] of Object.entries(additions)) {
      await addition.opens(ask);
      console.log(`${what}: it is there`);
    }
  });
  if (more.length)
    throw new Error(`more files than promised: ${more.join(", ")}`);
} finally {
  rmSync(scratch, { recursive: true, force: true });
}
