package hull_test

import (
	"fmt"

	"ergasia/core/hull"

	"gonum.org/v1/gonum/spatial/r3"
)

// A hull is made from a form and its tape measures; the form says what is wrong
// with them.
func ExampleForm() {
	form, _ := hull.FormNamed("vee")
	tape := form.Usual()
	h := form.Hull(tape)
	shell, err := h.Shell()
	if err != nil {
		fmt.Println(err)
		return
	}
	fmt.Printf("%.2f m long, closed up to the sheer: %v\n", h.Length(), shell.Holds > 0)
	tape["chine_beam_m"] = tape["beam_m"] + 1
	fmt.Println(form.Check("measures.", tape) != nil)
	// Output:
	// 4.94 m long, closed up to the sheer: true
	// true
}

// A box of 2 x 1 x 0.5 m in the middle of the boat holds a cubic metre.
func ExampleBox() {
	box := hull.Box(r3.Vec{Y: -0.5}, r3.Vec{X: 2, Y: 0.5, Z: 0.5})
	fmt.Printf("%.3f m³\n", box.Volume())
	// Output: 1.000 m³
}
