package server

import (
	"github.com/danielgtaylor/huma/v2"

	"clearjar/propagation/door"
)

// What the contract says of each operation beside its summary: the room it belongs to, and what a caller has to know.
const (
	factsTag   = "facts"
	shelfTag   = "shelf"
	outsideTag = "outside"
	mothersTag = "mothers"
	plansTag   = "plans"
	photosTag  = "photos"
	bookTag    = "handbook"
	filesTag   = "files"
	doorTag    = "door"
)

var tagSays = []*huma.Tag{
	{Name: factsTag, Description: "What happened, as the grower notes it. Each fact has an id made where it was made; the same one again is the same, the same id with other content is refused with both."},
	{Name: outsideTag, Description: "Devices and services that are not the grower: sensors that are heard, calendars that read."},
	{Name: doorTag, Description: "Who comes in, by which way, and what they may do. What is asked for beside one's own account stands in x-right of each operation."},
	{Name: shelfTag, Description: "What stands, how it is, and what follows from what was noted."},
	{Name: mothersTag, Description: "The mother plants, their stems, and what was taken from them."},
	{Name: plansTag, Description: "Where to cut, what that is worth, and the bench."},
	{Name: photosTag, Description: "Photos as they came, pictures for the screen, and lengths on them."},
	{Name: bookTag, Description: "Tables and numbers of the job, and where the grower is."},
	{Name: filesTag, Description: "What goes out and comes in as files of open formats, and tags to print."},
}

const aFact = " Refused with the field when it cannot be; 409 when it contradicts what was kept meanwhile, with what stands."

var described = map[string]struct{ tag, says string }{
	"whoAmI":             {doorTag, "Asked first by every page. first_start says that nobody is a member yet."},
	"signIn":             {doorTag, "Five tries at once of one account and then one a minute, sixty of one address and then one in ten seconds; counted in the database."},
	"askPasskey":         {doorTag, "The question is kept with the log-in and answered once."},
	"signInWithPasskey":  {doorTag, "The passkey says who is there."},
	"recover":            {doorTag, "The code is used up, and elsewhere the member is signed out."},
	"signInToDemo":       {doorTag, "Only where the server was started for the demo, on loopback."},
	"lookAtInvitation":   {doorTag, "It stays unused."},
	"join":               {doorTag, "Once, and in time. What is asked for depends on what the invitation is for."},
	"signOut":            {doorTag, "What has the cookie opens nothing any more."},
	"account":            {doorTag, "Passkeys, recovery codes that are left, and devices, the last used first."},
	"wayIn":              {doorTag, "Names before numbers; empty while only its own machine reaches it."},
	"endSignIn":          {doorTag, "Twice is once."},
	"signOutElsewhere":   {doorTag, "Every device but this one."},
	"changePassphrase":   {doorTag, "Twelve characters at least, and none that is easily guessed. Elsewhere the member is signed out."},
	"makeRecoveryCodes":  {doorTag, "Only digests are kept. Those before open nothing any more."},
	"letDeviceIn":        {doorTag, "For ten minutes, once."},
	"askForPasskey":      {doorTag, "A passkey belongs to the name by which the page was opened; by a number there is none."},
	"keepPasskey":        {doorTag, "The question that was asked is answered once."},
	"removePasskey":      {doorTag, "It opens nothing any more."},
	"people":             {doorTag, "Those who may come in first, in the order they came."},
	"nameHousehold":      {doorTag, "As invitations and pages call it; at most 60 characters."},
	"changeMember":       {doorTag, "The last keeper stays one."},
	"endMember":          {doorTag, "At once and on every device. What they noted stays, with their name."},
	"letMemberInAgain":   {doorTag, "For a day, once."},
	"invitations":        {doorTag, "Without their codes, which were said once."},
	"invite":             {doorTag, "For a week, once; only a digest of the code is kept."},
	"uninvite":           {doorTag, "One that was used stays used."},
	"bringIn":            {factsTag, "Makes a mother of whom only the name is known when none is named, sets the piece when a vessel is given, and keeps what was seen of it." + aFact},
	"cutBack":            {factsTag, "From then on the piece is judged from what is left." + aFact},
	"takeCuttings":       {factsTag, "All pieces of a cut come into being together, or none. A node is cut once." + aFact},
	"correctDate":        {factsTag, "The order of what happened must still make sense. What it said before stays in the record." + aFact},
	"keepFacts":          {factsTag, "Each is kept in a transaction of its own; one that is refused keeps no other out. A receipt says kept, same, differs or refused, and names what the fact touched. When the database is gone the answer is 503, and what was kept by then answers same when it is sent again."},
	"giveAway":           {factsTag, "Once, and not of a lost one." + aFact},
	"recordLook":         {factsTag, "Lengths of traced roots are worked out here from line, scale and vessel; what is sent of them is not taken. A look that replaces another leaves that one in the record." + aFact},
	"addMother":          {factsTag, "She gets the next free code of three letters." + aFact},
	"correctMother":      {factsTag, "Codes of what was cut from her stay. What was said before stays in the record." + aFact},
	"end":                {factsTag, "Established counts when it has grown on after potting." + aFact},
	"correctOutcome":     {factsTag, "What it said before stays in the record." + aFact},
	"correctPlace":       {factsTag, "Names are used once." + aFact},
	"chooseNumber":       {factsTag, "Everything is judged by it from then on. A value outside the range of the number is refused." + aFact},
	"keepPlan":           {factsTag, "A plan keeps the maps it was made on, and reads the same for ever." + aFact},
	"tickStep":           {factsTag, "The newest tick of a line holds." + aFact},
	"potUp":              {factsTag, "Once, of a piece that was set." + aFact},
	"fillPot":            {factsTag, "All its plants come into it together, or none. A first pot needs a piece that was set, or has roots of its own, and happens once; what stands in a pot already moves on." + aFact},
	"potMother":          {factsTag, "A pot far wider than the one before, or many roots off, is kept and told on her page." + aFact},
	"part":               {factsTag, "Each gets a code after that of its parent, and a tag. From a leaf or a tuber they grew at a growing point, which stays; of a stem, a rhizome or a clump nodes go with them, the uppermost first, and one stays." + aFact},
	"chooseSchool":       {factsTag, "The choice decided last holds, whenever it arrives." + aFact},
	"setInVessel":        {factsTag, "First or anew. A full vessel is refused." + aFact},
	"mapStem":            {factsTag, "An edit made on a version that is not the newest is refused with what stands; earlier versions stay." + aFact},
	"addVessel":          {factsTag, "A new name of a shelf makes a new shelf." + aFact},
	"correctVessel":      {factsTag, "A vessel keeps its medium." + aFact},
	"care":               {factsTag, "Visits are added up: two of one day are both kept and nothing counts twice. What belongs to another medium, or a cover it has not, is refused." + aFact},
	"moveVessel":         {factsTag, "All that stands in it goes with it. A new name of a shelf makes a new shelf." + aFact},
	"endVessel":          {factsTag, "Refused while pieces stand in it, with their codes." + aFact},
	"orderPlaces":        {factsTag, "All shelves, each once; the order noted last holds, on the shelf and on the round. With one left out it is refused." + aFact},
	"chooseCareSchool":   {factsTag, "The choice made last holds; that of one vessel before that of all. An empty school of one vessel goes back to that of all." + aFact},
	"makeKey":            {outsideTag, "Only a digest of the secret is kept. A sensor hangs on a shelf; a calendar's address is /api/calendar/ with the secret and .ics."},
	"keys":               {outsideTag, "Those that open first, the newest first; without their secrets."},
	"revokeKey":          {outsideTag, "At once and for good; what a sensor said stays."},
	"placeClimate":       {outsideTag, "Steps of a quarter of an hour up to a day, by how many days are asked for; the wanted band is that of the most delicate pieces, or of the stage asked for."},
	"takeReadings":       {outsideTag, "At most 10 000 at once, in any order. The first of a minute stays, others are counted as repeated. Air that cannot be, the future, and what lies before the sensor was here are refused one by one: the first 100 are named, all are counted. After 30 days readings are kept by the hour."},
	"importReadings":     {outsideTag, "CSV with the columns at, temp_c and humidity_pct; a time without a zone is the household's. With a bad row nothing is kept unless keep_good asks for the good ones; a file read twice is kept once."},
	"exportReadings":     {outsideTag, "The columns at, temp_c and humidity_pct, oldest first; what is kept by the hour as the mean of its hour."},
	"calendar":           {outsideTag, "RFC 5545: one event for each day with a round over the next 28 days, supposing that each is done on its day."},
	"round":              {shelfTag, "For each vessel in use: what is due and since when, what to leave alone and until when, how hardening off goes on, and the visits of today."},
	"vesselPage":         {shelfTag, "As it stands, what is due, and at most 200 things that happened to it, newest first; earlier says that there are more."},
	"water":              {factsTag, "Of the mother, some days before a cut." + aFact},
	"withdraw":           {factsTag, "It stays in the record and counts no longer. What later facts rest on is refused." + aFact},
	"group":              {bookTag, "What is learned is made on the first look of a day. A forecast is held against the first look at which all that its school wants was seen."},
	"worked":             {bookTag, "By the numbers of the household: a made-up piece, for the page that explains the model."},
	"ahead":              {shelfTag, "By a model, for what stands and roots: 8 in 10 come ready within their band. Potting days are the fewest that serve all that comes ready by then."},
	"shelf":              {shelfTag, "Places, vessels, and every cutting that stands with its verdict under its school. What has ended or was given away is found by search, by its history and by its mother."},
	"cutting":            {shelfTag, "Facts, evidence, the verdict under each school, forecast, looks with their lines, history with what it said before, and the weeks after potting."},
	"layTable":           {shelfTag, "Cuttings are shared out: like with like, as few pots as that allows. Pots as the grower shared them out are held against the same rules, with what speaks against them. Places are mm from the middle of the pot, seen from above. Nothing is kept."},
	"trySetting":         {shelfTag, "By growth group, kind of piece, vessel and medium: pose, depth, cover, water, and cautions; how high the water stands and how much of it is poured in with these stems and those that stand there; for how many there is room. Nothing is kept."},
	"cuttingsOfCut":      {mothersTag, "For the cuts of long ago, which a mother's page lists without them."},
	"find":               {shelfTag, "Every word must be in it. At most 20 of each are listed; more says that there are more."},
	"mothers":            {mothersTag, "Each with her stems, and whether she is fit to be cut today; without what was taken from her."},
	"mother":             {mothersTag, "With her stems, cuts, cuttings, daughters, tally and corrections."},
	"stem":               {mothersTag, "With the nodes that were taken from it, and the cuttings that have them."},
	"plans":              {plansTag, "At most 100 at once; more says that there are more, which begin before the last of these."},
	"cutChoices":         {plansTag, "From fewer and safer to more and riskier; nothing is kept."},
	"planCut":            {plansTag, "With knives, what they make of the stems; without, the plan that serves the aim best within the limits. Nothing is kept."},
	"plan":               {plansTag, "On the maps it was made on, with timers, and what came of it when it was carried out."},
	"weighOffer":         {plansTag, "The chance that an offered piece grows on, what would raise it, and what to ask; nothing is kept."},
	"howMany":            {plansTag, "So that at least so many grow on with the certainty asked for; nothing is kept."},
	"cuttingsInPhoto":    {photosTag, "Every tag with its corners in pixels of the upright photo; the cuttings that tags name, themselves or by what they stand in, and whether each was looked at in this photo. Nothing is kept."},
	"turnPhoto":          {photosTag, "By quarters to the right. Refused once a look names the photo: its lines would lie elsewhere. The original bytes are left as they are."},
	"keepPhoto":          {photosTag, "JPEG, PNG or HEIC, up to 25 MB and 60 megapixels (HEIC 30). The bytes are kept unchanged; the same photo twice is one, and any id it was sent under names it."},
	"photo":              {photosTag, "As a JPEG of 320 or 1600 pixels, or in full size without where and by what it was taken; with location, the bytes as they came."},
	"measure":            {photosTag, "With the interval that most likely holds each, as a look with these lines would be measured; nothing is kept."},
	"calculators":        {bookTag, "Each with its formula, what it asks for and the hazards of what it is about."},
	"solve":              {bookTag, "With the formula as it was worked out. A value that is missing, or that nobody asked for, is refused by its name."},
	"askPhoto":           {photosTag, "The photo is looked at in the background; ask again for what came of it. Nothing of it is a fact until it is recorded with a look."},
	"sighting":           {photosTag, "State is waiting, working, done, failed or stopped; while it works, step says at what."},
	"stopSighting":       {photosTag, "What has ended stays as it ended."},
	"followRoot":         {photosTag, "Needs the nodes marked in the question. Points to pass go in the order from the tip to the node."},
	"rootsOfLook":        {photosTag, "RSML holds the lines in pixels of the upright photo and lengths in mm; roots without a line are in the CSV only."},
	"readRoots":          {photosTag, "Nothing is kept: the roots go into a look as it is made. Lengths in the file are not taken."},
	"handbook":           {bookTag, "What differs between groups, kinds, schools, media and vessels is a column of their tables. Every number has its basis."},
	"household":          {bookTag, "The zone that decides the day, and the half of the earth that decides the season."},
	"plannerNumbers":     {bookTag, "As they are in use: the starting value, what the grower decided, and what their records say."},
	"exportRecords":      {filesTag, "As JSON or CSV; lengths in mm."},
	"importRecords":      {filesTag, "With a bad row nothing is kept unless keep_good asks for the good ones. What is here already as it is stays."},
	"importWithProgress": {filesTag, "One line of JSON after the other; the last has the report, or the problem."},
	"passport":           {filesTag, "A PDF with its name, its mother and where she came from, its history, how its group is kept, and what to mind."},
	"tags":               {filesTag, "A PDF in the true size, each tag with a code of known width, so that a photo of it can be measured."},
}

// describe writes what is known of the operations into the contract.
func describe(api huma.API) {
	doc := api.OpenAPI()
	doc.Tags = tagSays
	doc.Servers = []*huma.Server{{URL: "/", Description: "where Clear Jar is served"}}
	doc.Info.Contact = &huma.Contact{Name: "the Clear Jar authors"}
	for _, path := range doc.Paths {
		for _, op := range []*huma.Operation{path.Get, path.Post, path.Put} {
			if op != nil {
				d := described[op.OperationID]
				op.Tags, op.Description = []string{d.tag}, d.says
				op.Extensions = map[string]any{"x-right": rightOf(op)}
			}
		}
	}
	// What each kind of fact takes, by its name.
	of := map[string]any{}
	for kind, t := range door.FactKinds() {
		of[kind] = doc.Components.Schemas.Schema(t, true, t.Name())
	}
	sent := doc.Components.Schemas.Map()["SentFact"]
	sent.Extensions = map[string]any{"x-content-by-kind": of}
}

// Described is how many operations are described.
func Described() int { return len(described) }
