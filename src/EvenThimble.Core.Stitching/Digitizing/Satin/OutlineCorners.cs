using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>Corners of outlines, looked at over a short way so that a corner drawn as a small curve is one too.</summary>
internal static class OutlineCorners
{
    private const double Sharp = 40;
    private const double Look = 0.35;

    /// <summary>Points at which a ring turns sharply into the area that it bounds, looked at over no more than some way (mm): in a thin stroke a bend as wide as that is none.</summary>
    public static IEnumerable<Point> Inner(IReadOnlyList<Point> ring, bool isHole, double most) => Of(ring, Polylines.IsClockwise(ring) == isHole ? 1 : -1, Math.Min(Look, most));

    /// <summary>Points at which it turns sharply about the area: corners that stick out.</summary>
    public static IEnumerable<Point> Outer(IReadOnlyList<Point> ring, bool isHole) => Of(ring, Polylines.IsClockwise(ring) == isHole ? -1 : 1, Look);

    private static IEnumerable<Point> Of(IReadOnlyList<Point> ring, int way, double look)
    {
        var turns = new double[ring.Count];
        for (var i = 0; i < ring.Count; i++)
        {
            var (a, b) = (ring[i] - Along(i, -1), Along(i, 1) - ring[i]);
            turns[i] = way * Math.Atan2(a.Cross(b), a.Dot(b)) * 180 / Math.PI;
        }

        // Of a corner that is drawn as a small curve only the sharpest point counts.
        for (var i = 0; i < ring.Count; i++)
            if (turns[i] > Sharp && turns[i] > Near(i, (i + ring.Count - 1) % ring.Count) && turns[i] >= Near(i, (i + 1) % ring.Count))
                yield return ring[i];

        double Near(int here, int there) => ring[here].DistanceTo(ring[there]) < Look ? turns[there] : 0;

        Point Along(int from, int step)
        {
            var (at, walked) = (from, 0.0);
            for (var k = 0; k < ring.Count && walked < look; k++)
            {
                var next = (at + step + ring.Count) % ring.Count;
                walked += ring[at].DistanceTo(ring[next]);
                at = next;
            }

            return ring[at];
        }
    }
}
