"""The points of an athlete that can be put down on a picture."""

from __future__ import annotations

from enum import StrEnum


class Joint(StrEnum):
    """The fourteen points of a figure, in the order in which they are put down and stand in a posture."""

    HEAD = "head"
    NECK = "neck"
    LEFT_SHOULDER = "left shoulder"
    RIGHT_SHOULDER = "right shoulder"
    LEFT_ELBOW = "left elbow"
    RIGHT_ELBOW = "right elbow"
    LEFT_WRIST = "left wrist"
    RIGHT_WRIST = "right wrist"
    LEFT_HIP = "left hip"
    RIGHT_HIP = "right hip"
    LEFT_KNEE = "left knee"
    RIGHT_KNEE = "right knee"
    LEFT_ANKLE = "left ankle"
    RIGHT_ANKLE = "right ankle"


ROW = {joint: row for row, joint in enumerate(Joint)}
"""The row of a joint in a posture."""
