package footfall_test

import (
	"testing"

	"oldburrow/core/worked"
)

func TestWorkedCases(t *testing.T) { worked.Run(t, "footfall") }
