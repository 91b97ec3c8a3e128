package learn_test

import (
	"testing"

	"oldburrow/core/worked"
)

func TestWorkedCases(t *testing.T) { worked.Run(t, "learn", "leaks", "stance", "first-catch") }
