// Package scale simulates a hanging scale that is read over the network, so that
// weighing can be tried and tested without one. Its line protocol, which the
// program speaks to any scale or bridge that offers it, is in docs/formats.md:
//
//	ergasia-scale 1 step=0.02 max=60 simulated
//	kg 12.34
//	over
//
// The first line is a greeting, then comes a reading ten times a second. A
// simulated scale also takes "hang 12.3" and "take", and answers "ok" or "no: why".
package scale

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"net"
	"strconv"
	"strings"
	"sync"
	"time"
)

// What the simulated scale is like. Practice: a cheap digital hanging scale.
const (
	Step   = 0.02 // kg
	Max    = 60.0 // kg
	period = 100 * time.Millisecond
	noise  = 0.012 // kg, one standard deviation
	swing  = 0.05  // of the load, at first
	settle = 0.8   // s, in which a swing falls to 1/e
	rate   = 1.4   // Hz of the swing
)

// Scale is a hook with something on it, or nothing.
type Scale struct {
	mu     sync.Mutex
	kg     float64
	since  time.Time
	now    func() time.Time
	random *rand.Rand
}

// New makes a scale with nothing on it; the same seed gives the same noise.
func New(seed uint64, now func() time.Time) *Scale {
	return &Scale{now: now, since: now().Add(-time.Hour), random: rand.New(rand.NewPCG(seed, 7))}
}

// Hang puts a load on the hook; nought takes it off.
func (s *Scale) Hang(kg float64) error {
	if !(kg >= 0 && kg <= 500) {
		return errors.New("a load is from 0 to 500 kg")
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	s.kg, s.since = kg, s.now()
	return nil
}

// Line is what the scale shows now.
func (s *Scale) Line() string {
	s.mu.Lock()
	defer s.mu.Unlock()
	t := s.now().Sub(s.since).Seconds()
	kg := s.kg * (1 + swing*math.Exp(-t/settle)*math.Cos(2*math.Pi*rate*t))
	if kg > Max {
		return "over"
	}
	kg += noise * s.random.NormFloat64()
	return fmt.Sprintf("kg %.2f", math.Round(kg/Step)*Step)
}

// Serve answers on a listener until the context ends.
func (s *Scale) Serve(ctx context.Context, l net.Listener) error {
	stop := context.AfterFunc(ctx, func() { _ = l.Close() })
	defer stop()
	for {
		conn, err := l.Accept()
		if ctx.Err() != nil {
			return nil
		}
		if err != nil {
			return fmt.Errorf("waiting for a reader: %w", err)
		}
		go s.serve(ctx, conn)
	}
}

func (s *Scale) serve(ctx context.Context, conn net.Conn) {
	ctx, cancel := context.WithCancel(ctx)
	defer cancel()
	defer func() { _ = conn.Close() }()
	answers := make(chan string, 4)
	go func() {
		defer cancel()
		lines := bufio.NewScanner(conn)
		lines.Buffer(make([]byte, 256), 256)
		for lines.Scan() {
			select {
			case answers <- s.obey(lines.Text()):
			case <-ctx.Done():
				return
			}
		}
	}()
	line := fmt.Sprintf("ergasia-scale 1 step=%.2f max=%.0f simulated", Step, Max)
	tick := time.NewTicker(period)
	defer tick.Stop()
	for {
		_ = conn.SetWriteDeadline(time.Now().Add(5 * time.Second))
		if _, err := fmt.Fprintln(conn, line); err != nil {
			return
		}
		select {
		case line = <-answers:
		case <-tick.C:
			line = s.Line()
		case <-ctx.Done():
			return
		}
	}
}

func (s *Scale) obey(command string) string {
	word, rest, _ := strings.Cut(strings.TrimSpace(command), " ")
	var err error
	switch word {
	case "hang":
		var kg float64
		if kg, err = strconv.ParseFloat(rest, 64); err == nil {
			err = s.Hang(kg)
		}
	case "take":
		err = s.Hang(0)
	default:
		err = errors.New("say hang and a mass in kg, or take")
	}
	if err != nil {
		return "no: " + err.Error()
	}
	return "ok"
}
