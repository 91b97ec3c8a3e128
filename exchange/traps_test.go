package exchange

import (
	"errors"
	"reflect"
	"slices"
	"strings"
	"testing"

	"oldburrow/core/animal"
	"oldburrow/core/line"
	"oldburrow/core/refuse"
)

func TestTrapsComeBackAsTheyWent(t *testing.T) {
	plain := line.NewTrap()
	plain.Number, plain.Size = 7, `5½ in, "offset"`
	odd := line.NewTrap()
	odd.Number, odd.Size, odd.Type, odd.ShockSpring, odd.Spares, odd.Away, odd.Note = 12, "snare", "foot_snare", true, []string{}, "lent", "two\nlines"
	raw, err := WriteTraps([]line.Trap{plain, odd}, []TrapSays{{"set 3", "18.2", "2026-12-01"}, {}})
	if err != nil {
		t.Fatal(err)
	}
	found, err := ReadTraps(raw, "", nil, animal.Reference)
	plain.Usual, odd.Usual = nil, nil // a file that gives a measure is a measurement
	if err != nil || len(found.Wrong) != 0 || !reflect.DeepEqual(found.Traps, []line.Trap{plain, odd}) {
		t.Errorf("%+v, %v\n%s", found, err, raw)
	}
	if !reflect.DeepEqual(found.Ignored, []string{"place", "tension_n", "measured_at"}) {
		t.Errorf("ignored %v", found.Ignored)
	}
}

// What is known of jaws goes out and comes back, what is not known too; a file with one word on them is read as well.
func TestJawsInAFile(t *testing.T) {
	yes, no, gap := true, false, 4.8
	x := line.NewTrap()
	x.Number, x.Size, x.JawForm, x.Offset, x.OffsetMm, x.Laminated, x.Padded = 3, "five", "round", &yes, &gap, &no, nil
	raw, err := WriteTraps([]line.Trap{x}, []TrapSays{{}})
	if err != nil {
		t.Fatal(err)
	}
	x.Usual = nil
	if found, err := ReadTraps(raw, "", nil, animal.Reference); err != nil || !reflect.DeepEqual(found.Traps, []line.Trap{x}) {
		t.Errorf("%+v, %v\n%s", found, err, raw)
	}
	found, err := ReadTraps([]byte("number,size,jaw\n3,five,laminated\n4,five,square\n"), "", []line.Trap{x}, animal.Reference)
	if err != nil || len(found.Wrong) != 0 || len(found.Ignored) != 0 || !*found.Traps[0].Laminated || found.Traps[0].JawForm != "round" || found.Traps[1].JawForm != "square" {
		t.Errorf("%+v, %v", found, err)
	}
	// A blank cell says of a new trap that nothing is known, and leaves what is known of another.
	x.ID = zeroID
	found, err = ReadTraps([]byte("number,size,offset,laminated\n3,five,,\n4,five,,\n"), "", []line.Trap{x}, animal.Reference)
	if err != nil || !*found.Traps[0].Offset || *found.Traps[0].Laminated || found.Traps[1].Offset != nil {
		t.Errorf("%+v, %v", found, err)
	}
	found, err = ReadTraps([]byte("number,size,offset_mm,padded\n3,five,wide,true\n4,five,1,perhaps\n"), "", nil, animal.Reference)
	if err != nil || len(found.Wrong) != 2 || !strings.Contains(found.Wrong[0].Says, `"wide" is no number`) || !strings.Contains(found.Wrong[1].Says, "neither yes nor no") {
		t.Errorf("%+v, %v", found, err)
	}
}

func TestTrapRowsThatCannotBe(t *testing.T) {
	file := strings.Join([]string{
		"\xEF\xBB\xBFNumber, size ,jaw,jaw_spread_mm,meant_for,colour",
		"1,No. 2,offset,140,coyote,green",
		"two,No. 2,offset,140,coyote,",
		"3,No. 2,toothed,140,coyote,",
		"4,No. 2,offset,wide,coyote,",
		"1,No. 2,offset,140,coyote,",
		"6,,offset,140,coyote,",
		"7,No. 2",
	}, "\n")
	found, err := ReadTraps([]byte(file), "", nil, animal.Reference)
	if err != nil {
		t.Fatal(err)
	}
	if len(found.Traps) != 2 || found.Traps[1].Number != 7 || found.Traps[1].MeantFor != "coyote" || !reflect.DeepEqual(found.Ignored, []string{"colour"}) {
		t.Errorf("%+v", found)
	}
	for i, want := range []WrongRow{{3, `"two" is no whole number`}, {4, `jaw "toothed" is not known`}, {5, `"wide" is no number`}, {6, "number 1 is there twice"}, {7, "size is missing"}} {
		if i >= len(found.Wrong) || found.Wrong[i].Row != want.Row || !strings.Contains(found.Wrong[i].Says, want.Says) {
			t.Errorf("%+v, want %+v", found.Wrong, want)
		}
	}
	for _, bad := range []string{"", "size,jaw\n5,offset", "number,size\n" + strings.Repeat("1,a\n", mostTraps+1)} {
		var p refuse.Problems
		if _, err := ReadTraps([]byte(bad), "", nil, animal.Reference); !errors.As(err, &p) || p[0].Field != "file" {
			t.Errorf("%.40q: %v", bad, err)
		}
	}
}

// What a file says nothing of stays as it hangs on the rack; only words can be blanked.
func TestRowsChangeOnlyWhatTheySay(t *testing.T) {
	known := line.NewTrap()
	known.ID, known.LineID, known.Version, known.Number, known.Size = zeroID, zeroID, 4, 7, "five and a half"
	yes := true
	known.Padded, known.WeightG, known.Tag, known.Note, known.ShockSpring = &yes, 1234, "KF", "old spring", true
	want := known
	want.ChainMm, want.Tag = 700, ""
	want.Usual = slices.DeleteFunc(line.Measurable(), func(field string) bool { return field == "chainMm" })
	found, err := ReadTraps([]byte("number,size,chain_mm,weight_g,tag\n7,,700,,\n8,fox,,,\n"), "", []line.Trap{known}, animal.Reference)
	if err != nil || len(found.Wrong) != 0 || len(found.Traps) != 2 || !reflect.DeepEqual(found.Traps[0], want) {
		t.Fatalf("%+v, %v", found, err)
	}
	if fresh := found.Traps[1]; fresh.ID != "" || fresh.Version != 0 || fresh.WeightG != line.NewTrap().WeightG || len(fresh.Usual) != len(line.Measurable()) {
		t.Errorf("a new trap: %+v", fresh)
	}
	found, err = ReadTraps([]byte("number,size,pan_diameter_mm\n7,,9\n"), "", []line.Trap{known}, animal.Reference)
	if err != nil || len(found.Wrong) != 1 || !strings.HasPrefix(found.Wrong[0].Says, "pan_diameter_mm must be from 25 mm") {
		t.Errorf("%+v, %v", found, err)
	}
}

// What a spreadsheet would run goes out harmless and comes back as it was.
func TestCellsThatASpreadsheetWouldRun(t *testing.T) {
	trap := line.NewTrap()
	for _, said := range []string{"=1+1", "+1", "-1", "@SUM(A1)", "'quoted", "'=x", "plain"} {
		trap.Number, trap.Size, trap.Tag, trap.Note = 1, said, said, said
		raw, err := WriteTraps([]line.Trap{trap}, []TrapSays{{}})
		if err != nil {
			t.Fatal(err)
		}
		for _, cell := range strings.Split(strings.Split(string(raw), "\n")[1], ",") {
			if cell != "" && strings.ContainsAny(cell[:1], "=+-@") {
				t.Errorf("%q goes out as %q", said, cell)
			}
		}
		back, err := ReadTraps(raw, "", nil, animal.Reference)
		if err != nil || len(back.Traps) != 1 || back.Traps[0].Size != said || back.Traps[0].Note != said {
			t.Errorf("%q comes back as %+v, %v", said, back, err)
		}
	}
}

// Files as other programs write them: with a byte order mark, in UTF-16, and with a column twice, which is refused.
func TestCSVAsItComes(t *testing.T) {
	const file = "number,size\n7,five\n"
	wide := []byte{0xFF, 0xFE}
	for _, r := range file {
		wide = append(wide, byte(r), 0)
	}
	for name, raw := range map[string][]byte{"plain": []byte(file), "marked": []byte("\xEF\xBB\xBF" + file), "UTF-16": wide} {
		if found, err := ReadTraps(raw, "", nil, animal.Reference); err != nil || len(found.Traps) != 1 || found.Traps[0].Number != 7 {
			t.Errorf("%s: %+v, %v", name, found, err)
		}
	}
	for name, raw := range map[string]string{"twice": "number,size,number\n", "quote": "number,\"size\n1,2\n", "nothing": ""} {
		var p refuse.Problems
		if _, err := ReadTraps([]byte(raw), "", nil, animal.Reference); !errors.As(err, &p) || p[0].Field != "file" || strings.Contains(p[0].Says, "parse error") {
			t.Errorf("%s: %v", name, err)
		}
	}
}

func FuzzReadTraps(f *testing.F) {
	f.Add([]byte("number,size,jaw\n1,No. 2,offset\n"))
	f.Add([]byte("number,size,spares\n1,\"No. 2\",skunk opossum\n"))
	f.Fuzz(func(t *testing.T, raw []byte) {
		found, err := ReadTraps(raw, "", nil, animal.Reference)
		for _, trap := range found.Traps {
			if trap.ID = zeroID; trap.Check(animal.Reference) != nil {
				t.Errorf("a trap that cannot be is taken: %+v (%v)", trap, err)
			}
		}
	})
}
