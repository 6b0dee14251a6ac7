using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Shapes;

/// <summary>Whether an area has threads or slits at all, so thin that they need to be looked at: most areas have none, and what is found out here takes far less time than drawing them in and growing them again.</summary>
internal static class ThinPlaces
{
    // Toward a tip both sides of it come together: what lies no farther apart along the outline than so many times the width asked for is a tip.
    private const double Tip = 6;

    /// <summary>Whether an area may be thinner somewhere than a width (mm), or a slit in it; tips aside.</summary>
    public static bool MayBeIn(Area area, double width)
    {
        var pieces = area.Rings.SelectMany(PiecesOf).ToArray();
        return pieces.Length == 0 || AreaOfOutlines.NearPairs(Array.ConvertAll(pieces, p => (p.From, p.To)), width).Any(n => AreNear(pieces[n.I], pieces[n.J], width));
    }

    /// <summary>The pieces of a ring, each with how far along the ring it begins, mm.</summary>
    private static IEnumerable<Piece> PiecesOf(Point[] ring)
    {
        var (at, length) = (0.0, Polylines.Length([.. ring, ring[0]]));
        for (var i = 0; i < ring.Length; i++)
        {
            var (from, to) = (ring[i], ring[(i + 1) % ring.Length]);
            yield return new(ring, length, from, to, at);
            at += from.DistanceTo(to);
        }
    }

    /// <summary>Whether two pieces come nearer to each other than a width, where they lie farther apart along the outline than a tip reaches.</summary>
    private static bool AreNear(Piece one, Piece other, double width)
    {
        if (one.Ring != other.Ring) return Polylines.Distance(one.From, one.To, other.From, other.To) < width;
        if (one.At > other.At) (one, other) = (other, one);

        // The shorter way along the ring from one piece to the other leads out of the one and into the other, or the other way round.
        var (between, around) = (other.At - one.End, one.RingLength - other.End + one.At);
        if (between > around) (one, other, between) = (other, one, around);
        var tip = Tip * width;
        if (one.RingLength < 4 * tip) return true;

        // Of places that lie so far apart at least one lies as far as this from where the pieces come nearest along the ring.
        var half = Math.Max(0, (tip - between) / 2);
        return (one.Length > half && Polylines.Distance(one.From, one.To.Toward(one.From, half / one.Length), other.From, other.To) < width)
            || (other.Length > half && Polylines.Distance(one.From, one.To, other.From.Toward(other.To, half / other.Length), other.To) < width);
    }

    private readonly record struct Piece(Point[] Ring, double RingLength, Point From, Point To, double At)
    {
        public double Length => From.DistanceTo(To);

        public double End => At + Length;
    }
}
