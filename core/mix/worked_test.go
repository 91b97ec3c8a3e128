package mix_test

import (
	"testing"

	"oldburrow/core/worked"
)

func TestWorkedCases(t *testing.T) {
	worked.Run(t, "freeze-point", "freeze-protect", "dilute", "mixture", "antifreeze")
}
