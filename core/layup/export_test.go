package layup

// What the cases of findings share with those of lay-ups.
var (
	DrawBedCase      = drawBed
	DrawBuiltCase    = drawBuilt
	DrawFibresCase   = drawFibres
	DrawPlanCase     = drawPlan
	FilmCase         = film
	LargeBoardCase   = largeBoard
	StandardDrumCase = standardDrum
	WholeCase        = whole
	WoolCase         = wool
)

// CloneCase is a copy whose lays can be changed.
func (p Plan) CloneCase() Plan { return p.clone() }
