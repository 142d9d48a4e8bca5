package guidepages

// stop is a stop of the work: what one comes there for, and what one does, in order.
type stop struct {
	ID, Name, For string
	Do            []string
	Href, Link    string // where it begins; empty: it belongs to a making
}

// stops are those of the strand at the head of a making, from the shelf to the notebook.
var stops = []stop{
	{
		ID: "shelf", Name: "Shelf", For: "Everything begins with what lies in your bags.", Href: "/lots/new", Link: "Put a lot on the shelf",
		Do: []string{
			"Put a lot on the shelf: a name, its kind, how it is prepared, its colour and what it weighs.",
			"A painted top has several colours; a colour can be typed, picked, read from a photo or measured.",
			"A list that you have already comes in as CSV. It is looked at first, and nothing is kept until you say so.",
			"Colours together spreads it out on a table: what goes with a lot, and what goes together.",
			"Whatever you take out or weigh in later is a line in the lot’s ledger, and can be taken back.",
		},
	},
	{
		ID: "need", Name: "Need", For: "How much fibre a hat, a throw or so many batts take.", Href: "/makings", Link: "Start a making",
		Do: []string{
			"Name what you make, then say so many metres, so many batts, a piece of felt, or the parts of a figure.",
			"In place of a pattern’s yarn tells what to spin where it asks for so many balls of something else.",
			"Length, grist and weight follow from each other: give two, and the third is worked out.",
			"What spinning, washing and carding lose is added. Every allowance can be changed, and says where it is from.",
			"What the shelf lacks becomes a list to buy.",
		},
	},
	{
		ID: "blend", Name: "Blend", For: "Which fibres, in which proportions, and the colour that gives.",
		Do: []string{
			"Add fibre from the shelf, then drag the edges of the bar, or type percent, weight or parts.",
			"A lock holds a share; the others give way.",
			"Find proportions starts from a colour instead and looks for a recipe on your shelf.",
			"Mend this blend asks how a batt came out and says what to add, or to draw out again.",
			"Tints and shades makes lighter and darker ones of it, even to the eye.",
		},
	},
	{
		ID: "layup", Name: "Lay-up", For: "What lies where on the drum, the board or the cards.",
		Do: []string{
			"Choose the equipment: it says how many units the blend makes there, and how full each is.",
			"A builder lays it for you; every lay can then be drawn, moved, split or turned.",
			"Each fibre is there for something: a lane, scattered between, over other lanes. One press changes it.",
			"What may go wrong stands beside it, with what puts it right.",
			"What makers differ in is chosen below, and holds for the whole making.",
		},
	},
	{
		ID: "weigh", Name: "Weigh", For: "What to weigh out, to the step of your scale.",
		Do: []string{
			"Say how many units of which finished weight: what carding loses is weighed in on top.",
			"At the scale one fibre comes after the other. Type the reading, or let a scale that is connected say it.",
			"Where a reading is off, choose what the others do. Any weighing can be taken back.",
			"Each weighing is kept at once, and its fibre leaves the shelf.",
		},
	},
	{
		ID: "card", Name: "Card", For: "What carding will make of it, and what it did.",
		Do: []string{
			"Look at the batt after each pass before you turn the crank, from both sides and cut through.",
			"At the carder the steps follow the lay-up. Weigh what comes off, and note how it looks.",
			"It says whether another pass is worth it, and where the grams went.",
			"When it does not go as it should, say what you see: it says what to try first.",
			"What came off goes onto the shelf as a lot with its recipe.",
		},
	},
	{
		ID: "yarn", Name: "Yarn", For: "What the batt becomes on the wheel, in metres.",
		Do: []string{
			"Choose how it is divided, from where it is spun and how it is plied: the colours of the yarn follow.",
			"See a stretch of it knitted, woven or felted.",
			"Enter a sample and the skeins you spun: the next forecast goes by them.",
		},
	},
	{
		ID: "notebook", Name: "Notebook", For: "What was made, and what it taught.", Href: "/notebook", Link: "Open the notebook",
		Do: []string{
			"Every run stands there with its recipe, what was foreseen and what came.",
			"Losses, minutes and looks are learned from it; your own figures take the place of the usual ones.",
			"An earlier batt can be made again from what is on the shelf now.",
		},
	},
}
