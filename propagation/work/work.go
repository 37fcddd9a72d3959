// Package work does in the background what nobody waits for: the turn of each household's day, and pictures of
// photos that are missing. Jobs are kept in PostgreSQL, claimed once, tried again when they fail; several
// servers may work on one database.
package work

import (
	"context"
	"log/slog"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverpgxv5"
	"github.com/riverqueue/river/rivertype"

	"clearjar/keeping"
	"clearjar/propagation"
	"clearjar/propagation/conclude"
	"clearjar/propagation/outside"
	"clearjar/propagation/photo"
	"clearjar/propagation/sight"
	"clearjar/store"
)

// Clock asks of every household whether its day has turned, and whether anything is to be judged anew.
type Clock struct{}

// Kind names the job.
func (Clock) Kind() string { return "clock" }

// Turn is the turn of one household's day: everything that stands is judged for the new day.
type Turn struct {
	Household uuid.UUID `json:"household"`
	Day       string    `json:"day"`
}

// Kind names the job.
func (Turn) Kind() string { return "turn_of_day" }

// Recount judges anew what has ended, after a change of a number or of the rules.
type Recount struct {
	Household uuid.UUID `json:"household"`
}

// Kind names the job.
func (Recount) Kind() string { return "recount" }

// Picture makes the pictures of one photo that are missing.
type Picture struct {
	Household uuid.UUID `json:"household"`
	Photo     uuid.UUID `json:"photo"`
}

// Kind names the job.
func (Picture) Kind() string { return "picture" }

// Sight looks at a photo.
type Sight struct {
	Household uuid.UUID `json:"household"`
	Sighting  uuid.UUID `json:"sighting"`
}

// Kind names the job.
func (Sight) Kind() string { return "sight" }

// Nightly asks for a copy of everything, when the newest is a day old.
type Nightly struct{}

// Kind names the job.
func (Nightly) Kind() string { return "nightly" }

// Copies is where copies of everything are kept, and how many. Without a folder none are made.
type Copies struct {
	// Database is its address: PostgreSQL's own programs ask for it.
	Database string
	Folder   string
	Keep     int
}

// askForCopy is how often it is looked whether a copy is due.
const askForCopy = time.Hour

// copyTime is how long a copy may take.
const copyTime = time.Hour

type nightly struct {
	river.WorkerDefaults[Nightly]
	copies Copies
	now    func() time.Time
}

func (w *nightly) Timeout(*river.Job[Nightly]) time.Duration { return copyTime }

// Work makes a copy, when there is a folder for it on this machine.
func (w *nightly) Work(ctx context.Context, _ *river.Job[Nightly]) error {
	if w.copies.Folder == "" {
		return nil
	}
	file, err := keeping.Nightly(ctx, w.copies.Database, w.copies.Folder, w.copies.Keep, w.now)
	if err != nil {
		slog.Error("no nightly copy was made", "why", err)
		return err
	}
	if file != "" {
		slog.Info("a nightly copy was made", "file", file)
	}
	return nil
}

// sightQueue is the queue of photos that are looked at: one at a time in a process, for their memory.
const sightQueue = "sight"

// copyQueue is the queue of nightly copies.
const copyQueue = "copies"

// every is how often the clock is looked at.
const every = time.Minute

// atOnce is how many jobs run at a time; decoding waits for its turn besides.
const atOnce = 2

// Client takes up the work of a garden.
type Client = river.Client[pgx.Tx]

// Start takes up the work, until the context ends and the client is stopped.
func Start(ctx context.Context, s *store.Store, g *propagation.Garden, copies Copies) (*Client, error) {
	workers := river.NewWorkers()
	river.AddWorker(workers, &nightly{copies: copies, now: g.Now})
	river.AddWorker(workers, &clock{store: s, garden: g})
	river.AddWorker(workers, &turn{garden: g})
	river.AddWorker(workers, &recount{garden: g})
	river.AddWorker(workers, &picture{garden: g})
	river.AddWorker(workers, &looking{garden: g})
	client, err := river.NewClient(riverpgxv5.New(s.Pool), &river.Config{
		Schema:  store.JobSchema,
		Workers: workers,
		Queues:  map[string]river.QueueConfig{river.QueueDefault: {MaxWorkers: atOnce}, sightQueue: {MaxWorkers: 1}, copyQueue: {MaxWorkers: 1}},
		PeriodicJobs: []*river.PeriodicJob{
			river.NewPeriodicJob(river.PeriodicInterval(every), func() (river.JobArgs, *river.InsertOpts) {
				return Clock{}, &river.InsertOpts{UniqueOpts: river.UniqueOpts{ByPeriod: every}}
			}, &river.PeriodicJobOpts{RunOnStart: true}),
			river.NewPeriodicJob(river.PeriodicInterval(askForCopy), func() (river.JobArgs, *river.InsertOpts) {
				return Nightly{}, &river.InsertOpts{Queue: copyQueue, UniqueOpts: river.UniqueOpts{ByPeriod: askForCopy}}
			}, &river.PeriodicJobOpts{RunOnStart: true}),
		},
	})
	if err != nil {
		return nil, err
	}
	// The jobs themselves are no household's: a nobody's connection reads them, and each job names its own.
	return client, client.Start(store.As(ctx, uuid.Nil))
}

type clock struct {
	river.WorkerDefaults[Clock]
	store  *store.Store
	garden *propagation.Garden
}

// Work gives each household whose day has turned a job for it, once; and one for what is to be judged anew.
func (w *clock) Work(ctx context.Context, _ *river.Job[Clock]) error {
	households, err := w.store.EveryHousehold(ctx)
	if err != nil {
		return err
	}
	client := river.ClientFromContext[pgx.Tx](ctx)
	for _, h := range households {
		g, err := w.garden.For(store.As(ctx, h))
		if err != nil {
			return err
		}
		once := &river.InsertOpts{UniqueOpts: river.UniqueOpts{ByArgs: true}}
		if _, err := client.Insert(ctx, Turn{h, g.Today().Format(time.DateOnly)}, once); err != nil {
			return err
		}
		behind, err := conclude.Behind(store.As(ctx, h), g)
		if err != nil {
			return err
		}
		if !behind {
			continue
		}
		// One at a time for a household; when it is done there may be another.
		if _, err := client.Insert(ctx, Recount{h}, &river.InsertOpts{UniqueOpts: river.UniqueOpts{ByArgs: true, ByState: underWay}}); err != nil {
			return err
		}
	}
	return nil
}

// underWay are the states of a job that is not finished.
var underWay = []rivertype.JobState{
	rivertype.JobStateAvailable, rivertype.JobStatePending, rivertype.JobStateRetryable, rivertype.JobStateRunning, rivertype.JobStateScheduled,
}

type recount struct {
	river.WorkerDefaults[Recount]
	garden *propagation.Garden
}

// Timeout is long enough for a large collection; what is done by then stays.
func (*recount) Timeout(*river.Job[Recount]) time.Duration { return 10 * time.Minute }

func (w *recount) Work(ctx context.Context, job *river.Job[Recount]) error {
	own := store.As(ctx, job.Args.Household)
	g, err := w.garden.For(own)
	for err == nil {
		var n int
		if n, err = conclude.CatchUp(own, g); n == 0 {
			break
		}
	}
	return err
}

type turn struct {
	river.WorkerDefaults[Turn]
	garden *propagation.Garden
}

// Timeout is long enough for a large collection.
func (*turn) Timeout(*river.Job[Turn]) time.Duration { return 10 * time.Minute }

func (w *turn) Work(ctx context.Context, job *river.Job[Turn]) error {
	own := store.As(ctx, job.Args.Household)
	g, err := w.garden.For(own)
	if err != nil {
		return err
	}
	if err := conclude.JudgeStanding(own, g); err != nil {
		return err
	}
	if err := outside.Gather(own, g); err != nil {
		return err
	}
	if err := sight.Clear(own, g); err != nil {
		return err
	}
	missing, err := photo.WithoutPictures(own, g)
	if err != nil {
		return err
	}
	client := river.ClientFromContext[pgx.Tx](ctx)
	for _, p := range missing {
		if _, err := client.Insert(ctx, Picture{job.Args.Household, p}, &river.InsertOpts{UniqueOpts: river.UniqueOpts{ByArgs: true}}); err != nil {
			return err
		}
	}
	return nil
}

type picture struct {
	river.WorkerDefaults[Picture]
	garden *propagation.Garden
}

func (w *picture) Work(ctx context.Context, job *river.Job[Picture]) error {
	own := store.As(ctx, job.Args.Household)
	g, err := w.garden.For(own)
	if err != nil {
		return err
	}
	return photo.MakePictures(own, g, job.Args.Photo)
}

// LookAt lets a photo be looked at soon: once, whichever server is free. A question that was asked already is not asked
// again.
func LookAt(ctx context.Context, s *store.Store, household, sighting uuid.UUID) error {
	client, err := river.NewClient(riverpgxv5.New(s.Pool), &river.Config{Schema: store.JobSchema})
	if err != nil {
		return err
	}
	_, err = client.Insert(store.As(ctx, uuid.Nil), Sight{household, sighting}, &river.InsertOpts{Queue: sightQueue, MaxAttempts: sightTries, UniqueOpts: river.UniqueOpts{ByArgs: true}})
	return err
}

// sightTries is how often a look at a photo is tried.
const sightTries = 3

type looking struct {
	river.WorkerDefaults[Sight]
	garden *propagation.Garden
}

// Timeout is long enough for the largest photo on a slow machine.
func (*looking) Timeout(*river.Job[Sight]) time.Duration { return 2 * time.Minute }

func (w *looking) Work(ctx context.Context, job *river.Job[Sight]) error {
	own := store.As(ctx, job.Args.Household)
	g, err := w.garden.For(own)
	if err != nil {
		return err
	}
	err = sight.Look(own, g, job.Args.Sighting)
	if err != nil && job.Attempt >= sightTries {
		// The last try: the grower is told, and can measure by hand.
		_ = sight.GiveUp(own, g, job.Args.Sighting)
	}
	return err
}
