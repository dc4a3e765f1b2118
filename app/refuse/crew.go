package refuse

func Stale(name string, state any) error {
	return &Error{Kind: Conflict, Sentence: name + " was changed by someone else meanwhile: look at it again.", State: state}
}
