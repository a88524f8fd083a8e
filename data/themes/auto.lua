-- As the terminal is: one of two.
name = "auto"
about = "dark or light, as your terminal is"
like = "dark"
on_white = "light"
looks = {}
