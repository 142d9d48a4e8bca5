package store

import "fairtangle/core/train"

// Practice is an exercise that was answered. What it was is made anew from skill, level and seed.
type Practice struct {
	Base
	Name        string
	Skill       string
	Level       int64
	Seed        int64
	ByLightness bool `gorm:"serializer:yes"`
	Score       float64
	Answer      train.Answer `gorm:"serializer:json"`
}
