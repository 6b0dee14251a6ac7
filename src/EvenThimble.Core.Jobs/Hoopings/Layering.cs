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

    /// <summary>What is known of a square while portions are laid one after the other.</summary>
    private struct Square
    {
        /// <summary>The last portion that came through, from 1.</summary>
        public int Seen;

        /// <summary>The part that sewed here last, from 1.</summary>
        public int Part;

        /// <summary>The first link of its portions, from 1; 0: none.</summary>
        public int Now;

        /// <summary>That of the part before it.</summary>
        public int Before;
    }

    /// <summary>A portion on a square, and the link of the one before it there.</summary>
    private struct Link
    {
        public int Portion;
        public int Next;
        public ushort Headings;
    }

    /// <summary>Looks at the portions of a plan, which are in sewing order.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="cells">Where its thread lies.</param>
    /// <param name="portions">The portions.</param>
    public static Layering Of(SewingPlan plan, ClothCells cells, List<Portion> portions)
    {
        var (lowerStart, lower) = (new int[portions.Count + 1], new List<int>(4 * portions.Count));
        var (squares, links, count) = (new Square[cells.Count], new Link[cells.Laid + 1], 0);

        // By portion the last one that lies over it.
        var over = new int[portions.Count];
        Array.Fill(over, -1);
        for (var b = 0; b < portions.Count; b++)
        {
            lowerStart[b] = lower.Count;
            var portion = portions[b];
            WorkBudget.Current.Spend((portion.End - portion.First) * 2);
            for (var i = portion.First; i < portion.End; i++)
            {
                var laid = cells.Of(i);
                if (laid.IsEmpty) continue;
                var heading = HeadingOf(plan.Records, i);
                var crossing = heading == 0 ? (ushort)0 : Crossing[System.Numerics.BitOperations.TrailingZeroCount(heading)];
                foreach (var cell in laid)
                {
                    ref var square = ref squares[cell];
                    if (square.Seen == b + 1)
                    {
                        // The portion came through here before, perhaps another way.
                        links[square.Now].Headings |= heading;
                        continue;
                    }

                    square.Seen = b + 1;
                    if (square.Part != portion.Part + 1) (square.Part, square.Before, square.Now) = (portion.Part + 1, square.Now, 0);
                    for (var link = square.Before; link > 0; link = links[link].Next)
                        Lay(links[link].Portion, b);
                    for (var link = crossing == 0 ? 0 : square.Now; link > 0; link = links[link].Next)
                        if ((links[link].Headings & crossing) != 0 && links[link].Portion < b - 1)
                            Lay(links[link].Portion, b);
                    links[++count] = new() { Portion = b, Next = square.Now, Headings = heading };
                    square.Now = count;
                }
            }
        }

        lowerStart[portions.Count] = lower.Count;
        return new(lowerStart, lower);

        void Lay(int a, int b)
        {
            if (over[a] == b) return;
            over[a] = b;
            lower.Add(a);
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

    /// <summary>By the number of a heading all those that cross it.</summary>
    private static readonly ushort[] Crossing =
        [.. Enumerable.Range(0, Headings).Select(a => (ushort)Enumerable.Range(0, Headings).Where(b => Math.Min(Math.Abs(a - b), Headings - Math.Abs(a - b)) >= CrossesFrom).Sum(b => 1 << b))];
}
