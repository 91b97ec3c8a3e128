// Package asked answers what only computes, as the pages ask for it: by a path and a JSON body. The program answers so over HTTP, and the same
// package answers in the browser where the program does not.
package asked

import (
	"context"
	"strings"

	"oldburrow/core/ground"
	"oldburrow/core/nights"
	"oldburrow/core/odds"
	"oldburrow/core/page"
	"oldburrow/core/refuse"
	"oldburrow/core/shed"
	"oldburrow/core/strict"
)

// With is what is computed with beside what is asked.
type With = page.With

// Usual is what is computed with where nobody said otherwise.
func Usual() With { return page.Usual() }

// Route is one question that can be asked. Its path, as /bench/lessons/:target, may end in a key that is part of the question. Body and Answer
// are blank ones of what is sent and given, nil where they hang on the key. Where Read is set nothing is sent; where Lines is set the answer
// comes as many values, told one by one as they are found. What is Slow takes seconds, and is left where nobody waits for it any more.
type Route struct {
	Path              string
	Body, Answer      any
	Read, Lines, Slow bool

	answer func(ctx context.Context, with With, key string, body []byte, tell func(any)) (any, error)
}

// Routes are all of them.
func Routes() []Route { return routes }

var routes = []Route{
	{Path: "/calc/:name", answer: func(_ context.Context, _ With, key string, body []byte, _ func(any)) (any, error) {
		return calculated(key, body)
	}},
	{Path: "/bench/lessons/:target", Answer: []odds.Lesson{}, Read: true, answer: func(_ context.Context, with With, key string, _ []byte, _ func(any)) (any, error) {
		return lessons(with, key)
	}},
	{Path: "/kinds", Answer: []ground.Kind{}, Read: true, answer: func(context.Context, With, string, []byte, func(any)) (any, error) { return ground.Kinds, nil }},
	of("/bench", odds.Answer{}, func(_ context.Context, with With, q Question) (any, error) { return q.answered(with) }),
	slow(of("/bench/compare", odds.Difference{}, func(ctx context.Context, with With, q Comparing) (any, error) { return q.compared(ctx, with) })),
	slow(of("/bench/nights", nights.Next{}, func(ctx context.Context, with With, q Question) (any, error) { return q.ahead(ctx, with) })),
	slow(of("/bench/stance", odds.Stance{}, func(_ context.Context, with With, q Question) (any, error) { return q.stance(with) })),
	of("/coordinates", ground.Fix{}, func(_ context.Context, _ With, w Written) (any, error) { return ground.ReadCoordinates(w.Place) }),
	of("/pan", shed.PanAnswer{}, func(_ context.Context, with With, q shed.PanQuestion) (any, error) {
		return shed.Judge(with.Animals, q)
	}),
	lineByLine("/bench/following", Following{}, follow),
	lineByLine("/bench/best", Progress{}, best),
}

// of is a route whose body is decoded and answered at once.
func of[Q any](path string, answer any, does func(context.Context, With, Q) (any, error)) Route {
	var blank Q
	return Route{Path: path, Body: blank, Answer: answer, answer: func(ctx context.Context, with With, _ string, body []byte, _ func(any)) (any, error) {
		var q Q
		if err := strict.Decode(body, &q); err != nil {
			return nil, err
		}
		return does(ctx, with, q)
	}}
}

func slow(r Route) Route {
	r.Slow = true
	return r
}

// lineByLine is a route of a weighed set whose answer is told as it is found.
func lineByLine(path string, line any, does func(context.Context, odds.Question, func(any)) error) Route {
	return Route{Path: path, Body: Question{}, Answer: line, Lines: true, Slow: true, answer: func(ctx context.Context, with With, _ string, body []byte, tell func(any)) (any, error) {
		var q Question
		if err := strict.Decode(body, &q); err != nil {
			return nil, err
		}
		weighed, err := q.weighed(with)
		if err != nil {
			return nil, err
		}
		return nil, does(ctx, weighed, tell)
	}}
}

// Answer answers what is asked under a path. What comes line by line is told, and nil is returned; a context that ends ends it. It refuses what
// is wrong with the question by its fields, and a path that it does not know with refuse.ErrUnknown.
func Answer(ctx context.Context, with With, path string, body []byte, tell func(any)) (any, error) {
	for _, r := range routes {
		if key, ok := r.meant(path); ok {
			return r.answer(ctx, with, key, body, tell)
		}
	}
	return nil, refuse.ErrUnknown
}

// meant tells whether a path is this route's, and which key it ends in.
func (r Route) meant(path string) (key string, ok bool) {
	stem, _, keyed := strings.Cut(r.Path, ":")
	if !keyed {
		return "", path == r.Path
	}
	key, ok = strings.CutPrefix(path, stem)
	return key, ok && key != "" && !strings.Contains(key, "/")
}
