"""Groups: marking elements, by rule, by place, by hand."""
