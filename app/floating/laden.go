package floating

import "ergasia/app/aboard"

// laden is a laden boat with what this wing says of her.
type laden struct{ *aboard.Laden }
