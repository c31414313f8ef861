package api

// who is asked for in changes; on one machine it is the person at it.
const who = "you"

type body[T any] struct{ Body T }

func (s *Server) routes() {
	s.aboutRoutes()
	s.adviceRoutes()
	s.nextRoutes()
	s.printRoutes()
	s.areaRoutes()
	s.checkRoutes()
	s.circuitRoutes()
	s.containerRoutes()
	s.eventRoutes()
	s.findRoutes()
	s.freespaceRoutes()
	s.homeRoutes()
	s.itemRoutes()
	s.learnedRoutes()
	s.lineRoutes()
	s.tickRoutes()
	s.meterRoutes()
	s.modeRoutes()
	s.eveningRoutes()
	s.passageRoutes()
	s.photoRoutes()
	s.placeRoutes()
	s.planRoutes()
	s.revisionRoutes()
	s.roundRoutes()
	s.scaleRoutes()
	s.settingRoutes()
	s.sheetRoutes()
	s.shopfileRoutes()
	s.shopRoutes()
	s.stationRoutes()
	s.takesRoutes()
	s.floorPlanRoutes()
	s.turnRoutes()
	s.noteRoutes()
	s.factRoutes()
	s.storageRoutes()
	s.surveyRoutes()
	s.swapRoutes()
	s.tableRoutes()
}
