package main
import ("context";"time")
func leftSearches(ctx context.Context, p *program) error {return nil}
func otherNames(ctx context.Context, p *program) error {return nil}
func heavyPictures(ctx context.Context, p *program) error {return nil}
func manySamples(ctx context.Context, p *program) error {return nil}
func fullDisk(ctx context.Context, p *program) error {return nil}
func badRequests(ctx context.Context, p *program) error {return nil}
func racingKeys(ctx context.Context, p *program) error {return nil}
func guesses(ctx context.Context, p *program) error {return nil}
func mixedLoad(ctx context.Context, p *program, d time.Duration) error {return nil}
