"""The same work by programs that are not ours, on the same picture: lines `name seconds`, the best of several runs."""
import sys
import time

import cv2
import numpy as np
from skimage.filters import sato
from skimage.morphology import skeletonize

grey = cv2.imread(sys.argv[1], cv2.IMREAD_GRAYSCALE).astype(np.float32) / 255
mask = (grey > 0.6).astype(np.uint8)
sigmas = [1, 2, 3]


def opencv_sato():
    """The same measure by OpenCV's own parts: Gaussian, second derivatives by differences of differences, eigenvalue."""
    most = np.zeros_like(grey)
    k = np.array([[-0.5, 0, 0.5]], np.float32)
    for s in sigmas:
        g = cv2.GaussianBlur(grey, (8 * s + 1, 8 * s + 1), s, borderType=cv2.BORDER_REFLECT)
        dx, dy = cv2.filter2D(g, -1, k), cv2.filter2D(g, -1, k.T)
        xx, xy, yy = cv2.filter2D(dx, -1, k), cv2.filter2D(dx, -1, k.T), cv2.filter2D(dy, -1, k.T)
        mean, half = cv2.addWeighted(xx, 0.5, yy, 0.5, 0), cv2.magnitude(cv2.addWeighted(xx, 0.5, yy, -0.5, 0), xy)
        most = cv2.max(most, cv2.subtract(half, mean) * (s * s))
    return most


def best(name, do, times=5):
    do()
    took = []
    for _ in range(times):
        start = time.perf_counter()
        do()
        took.append(time.perf_counter() - start)
    print(name, min(took))


best("sato/skimage", lambda: sato(grey, sigmas=sigmas, black_ridges=False, mode="reflect"))
best("sato/opencv", opencv_sato)
best("thin/skimage", lambda: skeletonize(mask))
best("thin/opencv", lambda: cv2.ximgproc.thinning(mask * 255, thinningType=cv2.ximgproc.THINNING_ZHANGSUEN))
