using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Shapes;

/// <summary>
/// Where an area is so thin that it needs to be looked at, found between pieces of its outline that face each other. Most areas are so nowhere, and that is found out here in far less time than drawing an area in and
/// growing it again takes.
/// </summary>
internal sealed class ThinPlaces
{
    // Places that lie so little behind each other face each other still, mm.
    private const double Level = 1e-6;

    private readonly Piece[] _pieces;
    private readonly (Point From, Point To)[] _lines;

    /// <summary>Takes the pieces of an area's outlines.</summary>
    public ThinPlaces(Area area)
    {
        _pieces = [.. area.Rings.SelectMany((r, i) => PiecesOf(r, isHole: i > 0))];
        _lines = Array.ConvertAll(_pieces, p => (p.From, p.To));
    }

    /// <summary>Whether the area is thinner somewhere than a width (mm), but for tips and spurs about which the outline is no longer than so much, mm.</summary>
    public bool Exist(double width, double longest) => AreaOfOutlines.NearPairs(_lines, width).Any(n => AreNear(_pieces[n.I], _pieces[n.J], width, longest));

    /// <summary>Whether the area is thinner than a width (mm) between two parts of it, about either of which the outline is longer than so much, mm.</summary>
    public bool PartIt(double width, double longest) => AreaOfOutlines.NearPairs(_lines, width).Any(n => _pieces[n.I].Ring == _pieces[n.J].Ring && AreNear(_pieces[n.I], _pieces[n.J], width, longest));

    /// <summary>The pieces of a ring, each with how far along the ring it begins, mm.</summary>
    private static IEnumerable<Piece> PiecesOf(Point[] ring, bool isHole)
    {
        var (at, length, inward) = (0.0, Polylines.Length([.. ring, ring[0]]), Polylines.IsClockwise(ring) == isHole ? 1 : -1);
        for (var i = 0; i < ring.Length; i++)
        {
            var (from, to) = (ring[i], ring[(i + 1) % ring.Length]);
            yield return new(ring, length, from, to, (to - from).Unit().Normal() * inward, at);
            at += from.DistanceTo(to);
        }
    }

    /// <summary>Whether two pieces face each other nearer than a width, where they lie farther apart than so much along the outline, either way.</summary>
    private static bool AreNear(Piece one, Piece other, double width, double apart)
    {
        if (one.Ring != other.Ring) return AreNear(one, other, 0, 0, width);
        if (one.RingLength <= 2 * apart) return false;
        if (one.At > other.At) (one, other) = (other, one);

        // The shorter way along the ring from one piece to the other leads out of the one and into the other, or the other way round.
        var (between, around) = (other.At - one.End, one.RingLength - other.End + one.At);
        if (between > around) (one, other, between) = (other, one, around);

        // Of places that lie so far apart at least one lies as far as this from where the pieces come nearest along the ring.
        var half = Math.Max(0, (apart - between) / 2);
        return (one.Length > half && AreNear(one, other, half, 0, width)) || (half > 0 && other.Length > half && AreNear(one, other, 0, half, width));
    }

    /// <summary>The same, but for so much of the end of the one and of the beginning of the other, mm, and only where the area lies between them.</summary>
    private static bool AreNear(Piece one, Piece other, double lessOne, double lessOther, double width)
    {
        var (a, b) = (one.From, lessOne > 0 ? one.To.Toward(one.From, lessOne / one.Length) : one.To);
        var (c, d) = (lessOther > 0 ? other.From.Toward(other.To, lessOther / other.Length) : other.From, other.To);
        return Faces(a, a.NearestOn(c, d)) || Faces(b, b.NearestOn(c, d)) || Faces(c.NearestOn(a, b), c) || Faces(d.NearestOn(a, b), d);

        bool Faces(Point here, Point there) => here.DistanceTo(there) < width && (there - here).Dot(one.Inward) >= -Level && (here - there).Dot(other.Inward) >= -Level;
    }

    private readonly record struct Piece(Point[] Ring, double RingLength, Point From, Point To, Point Inward, double At)
    {
        public double Length => From.DistanceTo(To);

        public double End => At + Length;
    }
}
