package odds

import (
	"math"
	"testing"

	"oldburrow/core/learn"
)

// Prints that were marked farther back move the best setback farther back, by what the model is worth less than they lie; too few say nothing, and a set
// along a way has a stride and no setback.
func TestMarkedPrintsMoveTheBestSetback(t *testing.T) {
	asked := func(pattern string, prints learn.Prints) Stance {
		t.Helper()
		q := askedOf(t, pattern, "coyote")
		q.Circumstances.Record = record()
		of := q.Circumstances.Record.Animals["coyote"]
		of.Prints = prints
		q.Circumstances.Record.Animals["coyote"] = of
		found, err := StanceOf(q)
		if err != nil {
			t.Fatal(err)
		}
		return found
	}
	far := make([]float64, 12)
	for i := range far {
		far[i] = 326 // 100 mm farther back than by the model
	}
	found := asked("hole", learn.Prints{Reach: far})
	if r := found.Reach; r == nil || r.PriorMm != 226 || r.MeanMm != 276 || r.N != 12 {
		t.Fatalf("reach: %+v", found.Reach)
	}
	s := found.Setback
	if s == nil || math.Abs(s.OwnMm-s.PriorMm-50) > 30 || s.There <= s.Here || s.After == nil {
		t.Fatalf("setback: %+v", s)
	}
	if pan := s.After.Rigs[0].Pan; math.Abs(pan.YMm-s.OwnMm) > 1e-6 {
		t.Errorf("the pan lies at %g, best is %g", pan.YMm, s.OwnMm)
	}
	if few := asked("hole", learn.Prints{Reach: far[:2]}); few != (Stance{}) {
		t.Errorf("two prints say %+v", few)
	}
	trail := asked("trail", learn.Prints{Reach: far, Step: []float64{400, 400, 400}})
	if trail.Setback != nil || trail.Step == nil || trail.Step.MeanMm != (12*380.+1200)/15 {
		t.Errorf("along a way: %+v", trail)
	}
	q := askedOf(t, "hole", "coyote")
	if none, err := StanceOf(q); err != nil || none != (Stance{}) {
		t.Errorf("without a record: %+v, %v", none, err)
	}
}
