"""Who was where and who controlled: position track, rules, points, figures of a bout."""
