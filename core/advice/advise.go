package advice

import (
	"context"
	"math"
	"slices"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/tally"
)

// Forbids says by which clauses of somebody's rule card a set may not be made so for a target, by their keys; a nil one forbids nothing.
type Forbids func(l layout.Layout, of line.Set, target string) []string

// Broken are the clauses that it breaks.
func (f Forbids) Broken(l layout.Layout, of line.Set, target string) []string {
	if f == nil {
		return nil
	}
	return f(l, of, target)
}

// Advice is what a look at a set may mean, and what can be done: first that which brings most, then the rest. Alone is what the set is worth left as it
// is, in animals over the nights that are left; nil where nothing is claimed of it.
type Advice struct {
	Facts     Facts
	Causes    []Cause
	First     MendKey
	Why       Because
	Left      float64
	PerNight  float64 // what it promised
	Nights    float64 // that it worked without a catch
	Says      Barren  // what those nights say of it
	Alone     *float64
	Options   []Option
	Forbidden []string // clauses for which something was not offered
}

// Option is a mend that can be made: the set then, nil where it is an act beside the set; how many times as many it would catch, and whether that is
// judged and not computed; how many nights' catch it costs, what the set is then worth over the nights that are left, and its minutes at the set. One
// that costs more than it brings has no set.
type Option struct {
	Mend    MendKey
	Cause   CauseKey
	Act     Deed
	Form    line.Form
	Renews  []line.Renewal
	Swaps   bool
	Layout  *layout.Layout
	Times   float64
	Judged  bool
	Lost    float64
	Worth   float64
	Minutes float64
}

// Barren is what nights without a catch say of a set, by what it promised for them.
type Barren string

// What they say: less than one animal was promised, less than two, or more.
const (
	BarrenNothing Barren = "nothing"
	BarrenLittle  Barren = "little"
	BarrenMuch    Barren = "much"
)

// Barrens lists it.
var Barrens = []Barren{BarrenNothing, BarrenLittle, BarrenMuch}

func says(promised float64) Barren {
	switch {
	case promised < 1:
		return BarrenNothing
	case promised < barren:
		return BarrenLittle
	}
	return BarrenMuch
}

const (
	// UsualLeft is how many nights anybody looks ahead where nothing ends them, and at most. A judgement.
	UsualLeft   = 21
	mostMended  = 3    // mends are weighed of so many causes
	adviseSees  = 4000 // visits
	seenByChain = .02  // a change of the catch that is one
)

// Advise says what to make of a look. A context that ends ends it.
func (s Seen) Advise(ctx context.Context, said []string, forbids Forbids) (Advice, error) {
	a := Advice{First: Leave, Why: BecauseUnsure, Left: Left(*s.Asked.Circumstances)}
	facts, err := s.Facts(ctx)
	if err != nil {
		return a, err
	}
	if a.Facts, err = facts.Said(said); err != nil {
		return a, err
	}
	first := Leave
	if slices.Contains(Explained(), s.Look.Finding) {
		out, err := Causes(CausesInput{Finding: s.Look.Finding, Facts: a.Facts})
		if err != nil {
			return a, err
		}
		a.Causes, first = out.Causes, out.First
	}
	if mend, ok := plainly(s.Look, a.Facts); ok {
		first = mend
	}
	return a, s.weigh(ctx, &a, first, forbids)
}

// plainly is what a finding asks for whatever lies behind it: a bed that locked is covered otherwise, and where an animal was lost twice the trap is
// looked over first; what was caught by a toe says that the pan stands high.
func plainly(look line.Visit, f Facts) (MendKey, bool) {
	switch {
	case look.Finding == line.FoundLocked:
		return "proof", true
	case look.Finding == line.FoundLost && f.LossesHere != nil && *f.LossesHere >= 1:
		return "swap_trap", true
	case look.Finding == line.FoundTaken:
		return "landowner", true
	case slices.ContainsFunc(look.Catches, func(c line.Catch) bool { return c.Hold == line.HeldByToe }):
		return "lower_pan", true
	}
	return Leave, false
}

// Left is over how many nights anything is told.
func Left(around odds.Circumstances) float64 {
	if around.Left > 0 {
		return float64(min(around.Left, UsualLeft))
	}
	return UsualLeft
}

// stands is the question that the set answers as it is known to stand now, by what was found or gone and seen too.
func (s Seen) stands(f Facts) odds.Question {
	q := s.Asked
	q.Visits, q.Map = adviseSees, false
	around := *q.Circumstances
	q.Circumstances, q.Layout = &around, q.Layout.Clone()
	if f.ScentOnBed != nil {
		around.ScentOnBed = f.ScentOnBed
	}
	if f.Firm != nil {
		onRigs(&q.Layout, func(r *layout.Rig) bool {
			r.Bed.Firm = new(*f.Firm)
			return true
		})
	}
	return q
}

// weigh fills in what the set and each mend of its likeliest causes are worth, and what comes first.
func (s Seen) weigh(ctx context.Context, a *Advice, first MendKey, forbids Forbids) error {
	q := s.stands(a.Facts)
	answer, err := odds.Of(q)
	if err != nil || answer.Whole == nil || answer.Whole.Per100.Mid <= 0 {
		a.First = first
		return err
	}
	a.PerNight, a.Nights = answer.Whole.Per100.Mid/100, s.barren()
	a.Says = says(a.PerNight * a.Nights)
	worth := WaitInput{PerNight: a.PerNight, Nights: a.Nights, Left: a.Left}
	alone, err := Wait(worth)
	if err != nil {
		return err
	}
	a.Alone = &alone.Wait
	for _, c := range mendable(a.Causes, first) {
		o, err := s.option(ctx, q, c, answer, a, forbids)
		if err != nil {
			return err
		}
		if o != nil {
			a.Options = append(a.Options, *o)
		}
	}
	choosing := Choosing{Finding: s.Look.Finding, Mend: first, Patience: s.patience(), Stood: s.stood(), Worth: worth}
	if i := slices.IndexFunc(a.Options, func(o Option) bool { return o.Mend == first }); i >= 0 {
		o := a.Options[i]
		choosing.Worth.Change = &WaitChange{Gain: o.Times, Lost: o.Lost}
		choosing.Beyond = o.Act != "" && o.Layout == nil || s.Look.Finding == line.FoundLocked // of frost the chain of an average night knows nothing
	} else if first != Leave {
		choosing.Mend = Leave // it cannot be made here
	}
	chosen, err := Choose(choosing)
	if err != nil {
		return err
	}
	a.First, a.Why = chosen.First, chosen.Why
	for i := range a.Options {
		if o := &a.Options[i]; o.Layout != nil && o.Mend != a.First && o.Worth <= *a.Alone+tied {
			o.Layout = nil
		}
	}
	slices.SortStableFunc(a.Options, func(x, y Option) int { return rank(x, a.First) - rank(y, a.First) })
	return nil
}

func rank(o Option, first MendKey) int {
	if o.Mend == first {
		return 0
	}
	return 1
}

// mendable are the likeliest causes of which something can be done, each mend once, and the mend that is asked for in any case.
func mendable(causes []Cause, first MendKey) []Cause {
	var found []Cause
	add := func(c Cause) {
		known := slices.ContainsFunc(found, func(x Cause) bool { return x.Mend == c.Mend })
		if c.Mend != Leave && !known && len(found) < mostMended {
			found = append(found, c)
		}
	}
	if i := slices.IndexFunc(causes, func(c Cause) bool { return c.Mend == first }); i >= 0 {
		add(causes[i])
	} else {
		add(Cause{Mend: first, Share: 1})
	}
	for _, c := range causes {
		add(c)
	}
	return found
}

// option is what one mend comes to; nil where it cannot be made at this set, or is forbidden.
func (s Seen) option(ctx context.Context, q odds.Question, c Cause, as odds.Answer, a *Advice, forbids Forbids) (*Option, error) {
	w := ways[c.Mend]
	o := Option{Mend: c.Mend, Cause: c.Key, Act: w.act, Form: w.form, Renews: w.renews, Swaps: w.swaps, Times: 1, Minutes: w.does.Minutes}
	best, err := s.bestOf(ctx, q, w, c.Mend, a, forbids)
	switch {
	case err != nil:
		return nil, err
	case best == nil && w.act == "":
		return nil, nil
	case best == nil:
		o.Form, o.Worth = "", *a.Alone
		return &o, nil
	}
	o.Layout, o.Times, o.Lost, o.Minutes = best.Layout, best.Times, best.Lost, best.Minutes
	if o.Judged = w.unseen && math.Abs(o.Times-1) <= seenByChain; o.Judged {
		o.Times = s.judged(c.Share, as)
	}
	if s.Look.Finding.Facts().Ends {
		o.Lost = 0 // it is made again in any case
	}
	worth, err := Wait(WaitInput{PerNight: a.PerNight, Nights: a.Nights, Left: a.Left, Change: &WaitChange{Gain: o.Times, Lost: o.Lost}})
	if err != nil {
		return nil, err
	}
	o.Worth = *worth.Change
	return &o, nil
}

// bestOf is the best of the ways to make a mend; nil where there is none, or none that is not forbidden.
func (s Seen) bestOf(ctx context.Context, q odds.Question, w way, mend MendKey, a *Advice, forbids Forbids) (*odds.Weighed, error) {
	var changes []odds.Remedy
	if mend == "move_pan" {
		asked, moved, err := odds.ByPrints(q, s.prints())
		if err != nil {
			return nil, err
		}
		if q = asked; moved != nil {
			changes = append(changes, *moved)
		}
	}
	if len(changes) == 0 {
		var err error
		if changes, err = w.changes(ctx, q); err != nil {
			return nil, err
		}
	}
	if s.Look.Finding == line.FoundRolled && q.Schools.Rolling == "aside" {
		for i := range changes {
			if l := changes[i].Layout; l != nil && !odds.Rolled(*l) {
				then := l.Clone()
				odds.LayRollStone(&then) // they are led to it
				changes[i].Layout = &then
			}
		}
	}
	weighed, err := odds.Weigh(ctx, q, changes)
	if err != nil {
		return nil, err
	}
	var best *odds.Weighed
	for i := range weighed {
		if broken := forbids.Broken(*weighed[i].Layout, s.Record.Set(s.Make.SetID), q.Target.Key); len(broken) > 0 {
			a.Forbidden = append(a.Forbidden, broken...)
			continue
		}
		if best == nil || weighed[i].Times > best.Times {
			best = &weighed[i]
		}
	}
	slices.Sort(a.Forbidden)
	a.Forbidden = slices.Compact(a.Forbidden)
	return best, nil
}

// prints are those of the target that were marked at the spot, and those of the look where nobody could tell whose they are.
func (s Seen) prints() [][2]float64 {
	marked := s.Record.Prints(s.Spot.ID, s.Asked.Target.Key)
	if s.Look.Animal == "" {
		marked = append(marked, s.Look.Prints...)
	}
	found := make([][2]float64, len(marked))
	for i, p := range marked {
		found[i] = [2]float64{p.XMm, p.YMm}
	}
	return found
}

// judged is how many times as many a mend of which the chain sees nothing may bring: as surely as its cause lies behind the finding it brings the link
// that failed back to what it promises. What the link does at this set is told by that promise, as if one had come through, and by what was found.
func (s Seen) judged(share float64, as odds.Answer) float64 {
	promised := linkOf(as, s.Look.Finding.Facts().Failed)
	if promised <= 0 {
		return 1
	}
	reached, kept := s.came(s.Look.Finding.Facts().Failed)
	own := (1 + kept) / (1/promised + reached)
	return share*max(1, promised/own) + 1 - share
}

// linkOf is what a chain promises of a link, or as it begins where that is more; of what works a set at all, both links together.
func linkOf(as odds.Answer, key odds.LinkKey) float64 {
	promised := 1.0
	for _, link := range as.Whole.Links {
		if link.Key == key || key == odds.Notices && link.Key == odds.Commits || key == odds.Commits && link.Key == odds.Notices {
			promised *= math.Max(link.Mid, link.Par)
		}
	}
	if key == "" {
		return 0
	}
	return promised
}

// came counts the findings at the set, since it was last another pattern, that reached a link, and those that came through it, of whom it is set for.
func (s Seen) came(link odds.LinkKey) (reached, kept float64) {
	makes := s.Record.At(s.Make.SetID)
	for i := len(makes) - 1; i >= 0; i-- {
		if makes[i].Layout.Pattern != s.Make.Layout.Pattern {
			makes = makes[i+1:]
			break
		}
	}
	return s.cameTo(makes, link)
}

// cameTo is the same of some makes.
func (s Seen) cameTo(makes []line.Make, link odds.LinkKey) (reached, kept float64) {
	for _, m := range makes {
		r, k := line.Through(slices.DeleteFunc(slices.Clone(s.Record.Looks(m.ID)), func(look line.Visit) bool {
			return look.At.After(s.Look.At) || look.Animal != "" && look.Animal != s.Asked.Target.Key
		}), link)
		reached, kept = reached+float64(r), kept+float64(k)
	}
	return reached, kept
}

// barren is how many nights the set has worked without a catch; none where it has caught one before.
func (s Seen) barren() (nights float64) {
	if s.Record.HasCaught(s.Make.SetID, s.Asked.Target.Key) {
		return 0 // it has shown what it is worth
	}
	for _, worth := range s.Record.Worked(s.Make) {
		nights += worth
	}
	return nights
}

func (s Seen) stood() int { return tally.Nights(s.Make.BuiltAt, s.Look.At, s.Record.Zone) }
