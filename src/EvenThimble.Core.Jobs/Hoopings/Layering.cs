using EvenThimble.Core.Geometry;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Hoopings;

/// <summary>Which portions lie under which: of two that share a square of the cloth, the one that sews first. Within a part only what crosses counts, such as underlay; rows beside each other do not.</summary>
internal sealed class Layering
{
    private const int Headings = 12;
    private const int CrossesFrom = 3;
    private readonly int[] _lowerStart;
    private readonly int[] _lower;
    private readonly int[] _upperStart;
    private readonly int[] _upper;

    private Layering(int[] lowerStart, List<int> lower)
    {
        (_lowerStart, _lower) = (lowerStart, [.. lower]);
        var portions = lowerStart.Length - 1;
        _upperStart = new int[portions + 1];
        foreach (var a in _lower) _upperStart[a + 1]++;
        for (var n = 0; n < portions; n++) _upperStart[n + 1] += _upperStart[n];
        _upper = new int[_lower.Length];
        var at = _upperStart.ToArray();
        for (var b = 0; b < portions; b++)
            foreach (var a in LowerOf(b))
                _upper[at[a]++] = b;
    }

    /// <summary>Looks at the portions of a plan, which are in sewing order.</summary>
    public static Layering Of(SewingPlan plan, ClothCells cells, List<Portion> portions)
    {
        var (lowerStart, lower) = (new int[portions.Count + 1], new List<int>());

        // By square: the part that sewed there last with its portions, and the portions of the one before it.
        var (partAt, nowAt, beforeAt, seen) = (New(cells.Count), New(cells.Count), New(cells.Count), New(cells.Count));
        var links = new List<(int Portion, int Next, ushort Heading)>();
        var stamp = New(portions.Count);
        for (var b = 0; b < portions.Count; b++)
        {
            lowerStart[b] = lower.Count;
            var portion = portions[b];
            for (var i = portion.First; i < portion.End; i++)
            {
                var squares = cells.Of(i);
                if (squares.IsEmpty) continue;
                WorkBudget.Current.Spend(squares.Length / 4);
                var heading = HeadingOf(plan.Records, i);
                foreach (var cell in squares)
                {
                    if (seen[cell] == b)
                    {
                        // The portion came through here before, perhaps another way.
                        if (links[nowAt[cell]] is var (own, next, headings) && (headings & heading) == 0) links[nowAt[cell]] = (own, next, (ushort)(headings | heading));
                        continue;
                    }

                    seen[cell] = b;
                    if (partAt[cell] != portion.Part) (partAt[cell], beforeAt[cell], nowAt[cell]) = (portion.Part, nowAt[cell], -1);
                    for (var link = beforeAt[cell]; link >= 0; link = links[link].Next)
                        if (stamp[links[link].Portion] != b)
                            lower.Add(Stamped(links[link].Portion, b));
                    for (var link = nowAt[cell]; link >= 0; link = links[link].Next)
                        if (stamp[links[link].Portion] != b && links[link].Portion < b - 1 && Crosses(links[link].Heading, heading))
                            lower.Add(Stamped(links[link].Portion, b));
                    links.Add((b, nowAt[cell], heading));
                    nowAt[cell] = links.Count - 1;
                }
            }
        }

        lowerStart[portions.Count] = lower.Count;
        return new(lowerStart, lower);

        int Stamped(int portion, int by)
        {
            stamp[portion] = by;
            return portion;
        }

        static int[] New(int count)
        {
            var array = new int[count];
            Array.Fill(array, -1);
            return array;
        }
    }

    /// <summary>Portions that lie under one.</summary>
    public ReadOnlySpan<int> LowerOf(int portion) => _lower.AsSpan(_lowerStart[portion], _lowerStart[portion + 1] - _lowerStart[portion]);

    /// <summary>Portions that lie over one.</summary>
    public ReadOnlySpan<int> UpperOf(int portion) => _upper.AsSpan(_upperStart[portion], _upperStart[portion + 1] - _upperStart[portion]);

    private static ushort HeadingOf(StitchBlob records, int record)
    {
        if (!Portions.GoesOn(records, record)) return 0;
        var way = records.At(record) - records.At(record - 1);
        if (way.Length < 0.3) return 0;
        var turn = Math.Atan2(way.Y, way.X) / Math.PI;
        return (ushort)(1 << (int)((turn < 0 ? turn + 1 : turn) * Headings % Headings));
    }

    private static bool Crosses(ushort lower, ushort upper)
    {
        for (var a = 0; a < Headings; a++)
        {
            if ((lower & (1 << a)) == 0) continue;
            for (var b = 0; b < Headings; b++)
                if ((upper & (1 << b)) != 0 && Math.Abs(a - b) is var apart && Math.Min(apart, Headings - apart) >= CrossesFrom)
                    return true;
        }

        return false;
    }
}
