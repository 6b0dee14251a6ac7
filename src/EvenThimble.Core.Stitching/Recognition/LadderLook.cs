using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;

namespace EvenThimble.Core.Recognition;

/// <summary>Tells what legs are that go back and forth beside each other: throws, rows, spokes, or what is drawn.</summary>
/// <param name="points">The needle points of the thread.</param>
/// <param name="legs">In the order they are sewn.</param>
internal sealed class LadderLook(Point[] points, List<Leg> legs)
{
    /// <summary>Farther apart than this, mm, throws are a zigzag.</summary>
    public const double WideSpacing = 1.2;

    private const double SatinSpacing = 0.65;

    // Throws that turn by so much, degrees, and end within this part of their length about one place, are spokes.
    private const double SpokesTurn = 100;
    private const double AtHub = 0.15;

    private const double NearHub = 0.2;
    private const double MostAtHub = 0.85;

    // Ends of spokes farther apart than this are rays of a sun, mm; of spokes shorter than this, so near as that of a satin.
    private const double WideSpokes = 0.9;
    private const double ShortestSpokes = 3;

    // Rows of which none turns farther than this, degrees, are straight ones.
    private const double StraightRows = 8;
    private const int FewLegs = 6;

    // Rows of which so many begin after a step are stepped, though others go on from the end of one.
    private const double LeastStepped = 0.2;

    // Legs with steps between them, of which hardly any has a needle point within, are throws where they turn so far, degrees, or are longer than a stitch of fill, mm.
    private const double ThrowsTurn = 30;
    private const double LongerThanFillStitch = 4.2;

    // Throws that lean over so far that their columns are narrower than this part of their length lie along a line, as stem stitches do.
    private const double AlongLine = 0.34;

    /// <summary>What it is.</summary>
    /// <param name="spacings">How far each leg lies from the one before it, mm.</param>
    public Ladder Described(List<double> spacings)
    {
        var lengths = legs.ConvertAll(l => points[l.From].DistanceTo(points[l.To]));
        var inRow = legs.SelectMany(l => Enumerable.Range(l.From + 1, Math.Max(0, l.To - l.From - 2))).Select(i => points[i].DistanceTo(points[i + 1])).ToList();
        var stepped = legs.Zip(legs.Skip(1), (a, b) => a.To != b.From).Count(s => s);
        var isStepped = stepped * 2 > legs.Count - 1;
        var (usualLength, usual, sameSide, turn) = (lengths.Median(), spacings.Median(), SameSide(), TurnOf());
        var hub = HubOf(usualLength, turn);
        var divided = legs.Count(l => l.To - l.From > 1);
        var spokes = hub is not null && divided * 2 > legs.Count;
        lengths.Sort();
        var steppedThrows = isStepped && hub is null && divided <= Passage.MostDivided * legs.Count && (turn > ThrowsTurn || lengths[lengths.Count * 9 / 10] > LongerThanFillStitch);

        // Long rows on the slant differ from split throws in that more than one needle point lies in most, or in that they lie twice as far apart on either side.
        var rows = usualLength > Limits.LongestThrow && (inRow.Count >= legs.Count || (inRow.Count * 2 >= legs.Count && sameSide > SatinSpacing));

        // Where edges are ragged many steps lie nearly along a row, and are part of it.
        isStepped |= rows && stepped > LeastStepped * (legs.Count - 1);
        var kind = (isStepped && !steppedThrows) || spokes || (rows && turn < StraightRows) ? PassageKind.Fill : PassageKind.Satin;
        var uneven = usual < 1e-9 ? 1 : spacings.Zip(spacings.Skip(1), (a, b) => Math.Abs(a - b)).ToList().Median() / usual;

        // A few wide legs may be the loops of a line.
        var few = legs.Count < FewLegs ? usual > WideSpacing / 2 ? 0.3 : 0.15 : 0;
        var confidence = Math.Clamp(1 - (0.5 * uneven) - few, legs.Count < FewLegs ? 0.3 : Passage.Sure, 1);

        // Ends of rays lie beside each other once where all turn back in one place, twice where there is a step between them.
        var rays = stepped * 3 > legs.Count ? sameSide / 2 : sameSide;
        var isStar = hub is not null && rays > (usualLength < ShortestSpokes ? SatinSpacing : WideSpokes);
        return new(kind, legs, isStepped, isStepped || (kind == PassageKind.Fill && !spokes) ? usual : sameSide, inRow.Median(), confidence)
        {
            Turn = turn,
            Hub = hub,
            IsDrawn = isStar || (kind == PassageKind.Satin && !isStepped && LieAlongLine()),
        };
    }

    /// <summary>Whether throws hardly leave the line that they follow, the long way on and the short way back together.</summary>
    private bool LieAlongLine()
    {
        var leans = new List<double>();
        for (var k = 2; k < legs.Count; k++)
        {
            var (a, b) = (legs[k - 2], legs[k]);
            var way = (points[a.To] - points[a.From]).Unit();
            leans.Add(Math.Max(Math.Abs(way.Cross((points[b.From] - points[a.From]).Unit())), Math.Abs(way.Cross((points[b.To] - points[a.To]).Unit()))));
        }

        var together = leans.Count == 1 ? leans : [.. leans.Zip(leans.Skip(1), (on, back) => (on + back) / 2)];
        return together.Count > 0 && together.Median() < AlongLine;
    }

    /// <summary>The place that legs run out from and back to, all around it; null where there is none. Their spacing grows with the distance from there.</summary>
    private Point? HubOf(double usualLength, double turn)
    {
        if (turn <= SpokesTurn) return null;
        var ends = new List<Point>[] { [], [] };
        for (var k = 0; k < legs.Count; k++)
        {
            ends[k % 2].Add(points[legs[k].From]);
            ends[1 - (k % 2)].Add(points[legs[k].To]);
        }

        foreach (var end in ends)
        {
            var hub = new Point(end.Select(p => p.X).ToList().Median(), end.Select(p => p.Y).ToList().Median());
            if (end.Count(p => p.DistanceTo(hub) <= Math.Max(NearHub, AtHub * usualLength)) >= MostAtHub * end.Count) return hub;
        }

        return null;
    }

    /// <summary>How far the direction turns over a ladder, degrees, but for the tenth of its legs at either end of that; legs that slant both ways do not turn.</summary>
    private double TurnOf()
    {
        var (turn, directions) = (0.0, new List<double>(legs.Count));
        for (var k = 1; k < legs.Count; k++)
        {
            var by = Turn.Between(points[legs[k - 1].To] - points[legs[k - 1].From], points[legs[k].From] - points[legs[k].To]);
            directions.Add(turn + (by / 2)); // between one slant and the other
            turn += by;
        }

        directions.Sort();
        return directions.Count == 0 ? 0 : directions[directions.Count * 9 / 10] - directions[directions.Count / 10];
    }

    /// <summary>Usual distance of needle points on the side where it is longer, square to the throws: those that stop short on the inside of a bend count as if they did not.</summary>
    private double SameSide()
    {
        var gaps = new List<double>();
        for (var k = 2; k < legs.Count; k++)
        {
            var (a, b) = (legs[k - 2], legs[k]);
            var along = (points[a.To] - points[a.From] + (points[b.To] - points[b.From])).Unit();
            gaps.Add(Math.Max(Math.Abs(along.Cross(points[b.From] - points[a.From])), Math.Abs(along.Cross(points[b.To] - points[a.To]))));
        }

        return gaps.Median();
    }
}
