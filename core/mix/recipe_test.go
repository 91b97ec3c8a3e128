package mix

import (
	"errors"
	"math"
	"testing"

	"oldburrow/core/refuse"
)

func near(a, b, tolerance float64) bool { return math.Abs(a-b) <= tolerance }

var urineAndGlycerin = Recipe{ByVolume, []Part{{"urine", Water, 1}, {"glycerin", "glycerin", 1}}}

// Volume halves of glycerin and urine are 55.3 % by weight, which the table freezes a little under −29 °C.
func TestHalvesOfUrineAndGlycerin(t *testing.T) {
	f := urineAndGlycerin.Freezes()
	if !f.Known || !near(f.Percent, 55.3, .05) || !near(f.AtC, -29.2, .1) {
		t.Errorf("%+v", f)
	}
	if !near(f.Percent, GlycerinPercent(1, 1), 1e-9) {
		t.Error("two ways to the same strength differ")
	}
}

func TestFreezes(t *testing.T) {
	for name, c := range map[string]struct {
		recipe Recipe
		known  bool
		atC    float64
		why    string
	}{
		"plain urine":       {Recipe{ByVolume, []Part{{"urine", Water, 1}, {"water", Water, 1}}}, true, 0, ""},
		"essence in oil":    {Recipe{ByVolume, []Part{{"skunk essence", Oil, 1}, {"peanut oil", Oil, 15}}}, false, 0, Oily},
		"two agents":        {Recipe{ByWeight, []Part{{"water", Water, 8}, {"salt", "salt", 1}, {"glycerin", "glycerin", 1}}}, false, 0, Mixed},
		"brine":             {Recipe{ByWeight, []Part{{"water", Water, 80}, {"salt", "salt", 20}}}, true, -16.5, ""},
		"too much salt":     {Recipe{ByWeight, []Part{{"water", Water, 1}, {"salt", "salt", 1}}}, false, 0, Strong},
		"glycol by volume":  {Recipe{ByVolume, []Part{{"water", Water, 60}, {"glycol", "propylene_glycol", 40}}}, true, -21.1, ""},
		"what is dry stays": {Recipe{ByWeight, []Part{{"water", Water, 80}, {"salt", "salt", 20}, {"peat", Dry, 300}}}, true, -16.5, ""},
	} {
		if err := c.recipe.Check(); err != nil {
			t.Errorf("%s: %v", name, err)
		}
		if f := c.recipe.Freezes(); f.Known != c.known || f.Why != c.why || !near(f.AtC, c.atC, .01) {
			t.Errorf("%s: %+v", name, f)
		}
	}
}

// What is made to stand a cold freezes at that cold, by volume and by weight, whatever it was before.
func TestStandingFreezesWhereItShould(t *testing.T) {
	for _, r := range []Recipe{
		urineAndGlycerin,
		{ByWeight, []Part{{"glycerin", "glycerin", 5}, {"urine", Water, 2}, {"water", Water, 1}}},
		{ByWeight, []Part{{"water", Water, 3}, {"chloride", "calcium_chloride", 1}}},
		{ByVolume, []Part{{"water", Water, 3}, {"glycol", "propylene_glycol", 1}}},
		{ByWeight, []Part{{"water", Water, 3}, {"glycol", "propylene_glycol", 1}}},
	} {
		for _, toC := range []float64{-5, -18, -25, -40} {
			to, err := r.Standing(toC)
			if err != nil {
				t.Errorf("%+v to %g: %v", r, toC, err)
				continue
			}
			if f := to.Freezes(); !f.Known || !near(f.AtC, toC, .01) || len(to.Parts) != len(r.Parts) {
				t.Errorf("%+v to %g: %+v, %+v", r, toC, to, f)
			}
		}
	}
	if to, err := urineAndGlycerin.Standing(-25); err != nil || !near(to.Parts[1].Parts, .866, .001) {
		t.Errorf("to −25 °C: %+v, %v", to, err)
	}
	wants(t, second(urineAndGlycerin.Standing(-50)), "toC")
	wants(t, second(Recipe{ByVolume, []Part{{"a", Oil, 1}, {"b", Oil, 1}}}.Standing(-10)), "parts")
}

func TestSharesAndBatches(t *testing.T) {
	shares, err := Recipe{ByVolume, []Part{{"skunk essence", Oil, 1}, {"peanut oil", Oil, 15}}}.Shares(480)
	if err != nil || !near(shares[0], 30, 1e-9) || !near(shares[1], 450, 1e-9) {
		t.Errorf("%v, %v", shares, err)
	}
	if total, err := (Batch{Sets: 12, Doses: 2, Dose: 5, Reserve: .25}).Total(); err != nil || !near(total, 150, 1e-9) {
		t.Errorf("%g, %v", total, err)
	}
	wants(t, second(Batch{Sets: 12, Doses: 2, Dose: 0}.Total()), "dose")
	wants(t, second(Batch{Sets: 0, Doses: 2, Dose: 5}.Total()), "sets")
}

func TestBedding(t *testing.T) {
	out, err := Bedding(BeddingInput{2, "loam", "moist", "salt", -16.5})
	// 2 l of loosened loam are 2.24 kg dry, with a fifth of water; brine of 20 % takes a quarter of the water's weight.
	if err != nil || !near(out.WaterG, 448, 1) || !near(out.AgentG, 112, 1) || out.AgentMl != 0 || !near(out.SoilG, 2688, 1) {
		t.Errorf("%+v, %v", out, err)
	}
	if out, err := Bedding(BeddingInput{2, "loam", "moist", "propylene_glycol", -21.1}); err != nil || !near(out.AgentMl, 298.7, .5) {
		t.Errorf("%+v, %v", out, err)
	}
	for field, in := range map[string]BeddingInput{
		"litres": {0, "loam", "moist", "salt", -10}, "soil": {1, "snow", "moist", "salt", -10}, "wetness": {1, "loam", "soaked", "salt", -10},
		"agent": {1, "loam", "moist", "sugar", -10}, "toC": {1, "loam", "moist", "salt", -30},
	} {
		wants(t, second(Bedding(in)), field)
	}
}

func TestRecipesThatCannotBe(t *testing.T) {
	for field, r := range map[string]Recipe{
		"by":             {"spoon", urineAndGlycerin.Parts},
		"parts":          {ByVolume, urineAndGlycerin.Parts[:1]},
		"parts[1].parts": {ByVolume, []Part{{"urine", Water, 1}, {"glycerin", "glycerin", 0}}},
		"parts[0].what":  {ByVolume, []Part{{" ", Water, 1}, {"glycerin", "glycerin", 1}}},
		"parts[1].is":    {ByVolume, []Part{{"water", Water, 1}, {"salt", "salt", 1}}},
	} {
		wants(t, r.Check(), field)
	}
}

func second[T any](_ T, err error) error { return err }

func wants(t *testing.T, err error, field string) {
	t.Helper()
	var p refuse.Problems
	if !errors.As(err, &p) || p[0].Field != field {
		t.Errorf("%s: %v", field, err)
	}
}

func TestMixture(t *testing.T) {
	cold, colder := -25.0, -60.0
	in := MixtureInput{By: ByVolume, Parts: urineAndGlycerin.Parts, Total: 500, ToC: &cold}
	out, err := Mixture(in)
	if err != nil || !out.Stands || out.To != nil || out.Amounts[0] != 250 || out.Amounts[1] != 250 {
		t.Errorf("halves stand −25 °C: %+v, %v", out, err)
	}
	in.Parts = []Part{{"urine", Water, 3}, {"glycerin", "glycerin", 1}}
	if out, err = Mixture(in); err != nil || out.Stands || out.To == nil || !near(out.To.Freezes().AtC, cold, .01) {
		t.Errorf("three to one has to be mixed stronger: %+v, %v", out, err)
	}
	in.ToC = &colder
	if out, err = Mixture(in); err != nil || out.Stands || out.To != nil || out.Trouble == "" {
		t.Errorf("nothing stands −60 °C: %+v, %v", out, err)
	}
	in = MixtureInput{By: ByVolume, Parts: urineAndGlycerin.Parts, Batch: &Batch{Sets: 12, Doses: 1, Dose: 20, Reserve: .5}}
	if out, err = Mixture(in); err != nil || !near(out.Total, 360, 1e-9) || !near(out.Amounts[0]+out.Amounts[1], 360, 1e-9) {
		t.Errorf("a dozen sets: %+v, %v", out, err)
	}
	for field, change := range map[string]func(*MixtureInput){
		"by":         func(x *MixtureInput) { x.By = "eye" },
		"parts":      func(x *MixtureInput) { x.Parts = nil },
		"total":      func(x *MixtureInput) { x.Batch = nil },
		"batch.sets": func(x *MixtureInput) { x.Batch = &Batch{Doses: 1, Dose: 20} },
	} {
		bad := in
		change(&bad)
		_, err := Mixture(bad)
		var p refuse.Problems
		if !errors.As(err, &p) || p[0].Field != field {
			t.Errorf("%v does not name %s", err, field)
		}
	}
}

// The trade's usual mixtures can be mixed, each by itself and for a batch.
func TestUsualMixtures(t *testing.T) {
	for name, r := range Usual() {
		out, err := Mixture(MixtureInput{By: r.By, Parts: r.Parts, Total: 480})
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		sum := 0.0
		for _, a := range out.Amounts {
			sum += a
		}
		if !near(sum, 480, 1e-9) {
			t.Errorf("%s: %v are not 480 %s", name, out.Amounts, Unit(r.By))
		}
	}
}
