package rules

import "encoding/json"

// SpeciesOf are the animals of a thing: of a set a list, of a catch one. Nil is not known.
type SpeciesOf []string

// UnmarshalJSON reads a list, or one alone.
func (s *SpeciesOf) UnmarshalJSON(raw []byte) error {
	var one *string
	if json.Unmarshal(raw, &one) == nil {
		*s = nil
		if one != nil && *one != "" {
			*s = SpeciesOf{*one}
		}
		return nil
	}
	var all []string
	err := json.Unmarshal(raw, &all)
	*s = all
	return err
}
