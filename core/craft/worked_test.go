package craft_test

import (
	"testing"

	"oldburrow/core/worked"
)

func TestWorked(t *testing.T) { worked.Run(t, "order") }
