package carriage

// fit gives as many persons as it can a piece that fits them, and says how many got one
// and who got none: the greatest matching, by augmenting paths (Kuhn's algorithm, as in
// Cormen et al., Introduction to Algorithms, on bipartite matching).
func (l Line) fit(pieces []Item, persons []Person) (got int, without []string) {
	if !l.Fits {
		return min(len(pieces), len(persons)), nil
	}
	of := make([]int, len(pieces)) // the person that a piece is for, from 1
	var give func(p int, seen []bool) bool
	give = func(p int, seen []bool) bool {
		for i, it := range pieces {
			if seen[i] || !fits(it, persons[p], persons) {
				continue
			}
			seen[i] = true
			if of[i] == 0 || give(of[i]-1, seen) {
				of[i] = p + 1
				return true
			}
		}
		return false
	}
	for p := range persons {
		if give(p, make([]bool, len(pieces))) {
			got++
		} else {
			without = append(without, persons[p].Name)
		}
	}
	return got, without
}

// leastAdult is the body that a jacket of no said size fits, kg. Practice: adult sizes
// begin at 40 to 43.
const leastAdult = 40

// fits says whether a piece is for a person: of their size, and not another's who is
// aboard. Of an adult that nobody weighed, any adult's size is taken to fit.
func fits(it Item, p Person, persons []Person) bool {
	if it.WornBy != "" && it.WornBy != p.Name && aboard(it.WornBy, persons) {
		return false
	}
	kg := p.body()
	switch {
	case it.Fits == nil:
		return kg == 0 || kg >= leastAdult
	case kg == 0:
		return it.Fits[1] >= leastAdult
	}
	return kg >= it.Fits[0] && kg <= it.Fits[1]
}

func aboard(name string, persons []Person) bool {
	for _, p := range persons {
		if p.Name == name {
			return true
		}
	}
	return false
}
