"""Where devices are mounted: positions on the rails, what a layout costs, and the solver that finds one."""
