using System.Buffers;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Digitizing.Satin;

/// <summary>A piece of thread that lies alone across other thread.</summary>
/// <param name="Length">Its length, mm.</param>
/// <param name="Stitch">The needle point at the end of the stitch that it is of.</param>
/// <param name="Middle">Its middle.</param>
internal readonly record struct LonePiece(double Length, int Stitch, Point Middle);

/// <summary>
/// What of a run lies on top when all is sewn: found on small square cells, each of which knows the stitch that passed it last. A way that nothing covered is seen there as a thread
/// without a neighbour that goes its way.
/// </summary>
internal sealed class ShowingThread
{
    /// <summary>So far about a part of the cloth lies what covers some of it, mm.</summary>
    public const double Beyond = 0.4;

    // Length of a cell's side, mm; larger where there would be too many. On still larger ones nothing is told apart.
    private const double Finest = 0.07;
    private const double Coarsest = 0.2;
    private const int MostCells = 2_000_000;

    // A neighbour on either side is looked for at these distances, and what it lies across at those that are farther than its own edge is broad, mm.
    private static readonly double[] Beside = [0.32, 0.4, 0.48, 0.54];
    private const double Across = 0.4;

    // Of a part of the cloth nothing is said so near its edge, mm.
    private const double Known = 0.6;

    // Thread goes the same way where it turns by less than this, degrees.
    private const double SameWay = 30;
    private static readonly double CosSameWay = Math.Cos(SameWay * Math.PI / 180);

    // Along so many cells a stitch is laid in the time of one step of work.
    private const int CellsOfOne = 60;

    // The stitches, the first of which is none, and their directions; places are measured in cells.
    private readonly List<(Point From, Point To)> _stitches;
    private readonly List<Point> _directions;
    private readonly Point _corner;
    private readonly double _size;
    private readonly int _columns;
    private readonly int _rows;
    private readonly int[] _last;

    // Used again for each stitch that is looked at: its pieces, and where its neighbours are looked for.
    private readonly List<LonePiece> _pieces = [];
    private readonly Point[] _beside = new Point[Beside.Length];

    private ShowingThread(IEnumerable<(Point From, Point To)> stitches, Box box, double size, int columns, int rows, int[] cells)
    {
        (_size, _columns, _rows, _last) = (size, columns, rows, cells);
        _corner = new(box.MinX, box.MinY);
        _stitches = [default, .. stitches.Select(s => ((s.From - _corner) / size, (s.To - _corner) / size))];
        _directions = _stitches.ConvertAll(s => (s.To - s.From).Unit());
        for (var i = 1; i <= Count; i++)
            foreach (var (row, first, last) in Under(i))
                Array.Fill(_last, i, Cell(row, first), last - first + 1);
    }

    /// <summary>How many stitches there are; they have the numbers from 1 on.</summary>
    public int Count => _stitches.Count - 1;

    /// <summary>How many cells there are.</summary>
    public int Cells => _columns * _rows;

    /// <summary>Area of a cell, mm².</summary>
    public double SquareMm => _size * _size;

    /// <summary>The longest piece of thread of a run that lies across other thread and has a neighbour that goes its way on neither side; of length 0 where none is longer than is asked for, or for a run over so large an area that it is not looked at.</summary>
    /// <param name="run">The run.</param>
    /// <param name="longer">Only longer pieces are looked for, mm.</param>
    /// <param name="part">The part of the cloth that is looked at; null for all of it.</param>
    public static LonePiece LongestAlone(IReadOnlyList<Point> run, double longer, Box? part = null) => Look(run, longer, part, pieces => pieces.DefaultIfEmpty().MaxBy(p => p.Length));

    /// <summary>All such pieces in a part of the cloth that are longer than a length, mm.</summary>
    public static List<LonePiece> Alone(IReadOnlyList<Point> run, Box part, double longer) => Look(run, longer, part, pieces => pieces.ToList()) ?? [];

    private static T? Look<T>(IReadOnlyList<Point> run, double longer, Box? part, Func<IEnumerable<LonePiece>, T> look)
    {
        var box = part ?? Box.Around(run).Grown(1);
        var size = Math.Max(Finest, Math.Sqrt(box.Width * box.Height / MostCells));
        if (run.Count < 2 || size > Coarsest) return default;

        // Cells are taken and given back: new ones for each try would keep the collector busy for longer than looking takes.
        var (columns, rows) = ((int)(box.Width / size) + 1, (int)(box.Height / size) + 1);
        var cells = ArrayPool<int>.Shared.Rent(columns * rows);
        try
        {
            Array.Clear(cells, 0, columns * rows);
            var near = Polylines.Near(run, box.Grown(Beyond));
            var seen = new ShowingThread(near.Select(i => (run[i - 1], run[i])), box, size, columns, rows, cells);
            return look(seen.Pieces(longer).Select(p => p with { Stitch = near[p.Stitch - 1] }));
        }
        finally
        {
            ArrayPool<int>.Shared.Return(cells);
        }
    }

    /// <summary>What of stitches lies on top in a part of the cloth; all stitches that come near it have to be among them, in their order.</summary>
    public static ShowingThread In(Box part, IEnumerable<(Point From, Point To)> stitches)
    {
        var (columns, rows) = ((int)(part.Width / Finest) + 1, (int)(part.Height / Finest) + 1);
        return new(stitches, part, Finest, columns, rows, new int[columns * rows]);
    }

    private int At(Point place) => Cell((int)place.Y, (int)place.X);

    /// <summary>The cells that a stitch covers.</summary>
    public Strip Under(int stitch)
    {
        var (half, along, middle) = (Limits.ThreadWidth / _size / 2, _directions[stitch], new Point(0.5, 0.5));
        var beyond = along * (half * AreaCells.RoundEnd);
        var (from, to) = (_stitches[stitch].From - beyond - middle, _stitches[stitch].To + beyond - middle);
        WorkBudget.Current.Spend(1 + ((int)from.DistanceTo(to) / CellsOfOne));
        return new(from, to - from, along.Normal() * half, (0, _columns - 1), (0, _rows - 1));
    }

    /// <summary>The number of a cell, by which what lies on top of it is told.</summary>
    public int Cell(int row, int column) => (row * _columns) + column;

    /// <summary>The middle of a cell.</summary>
    public Point Middle(int cell) => _corner + (new Point((cell % _columns) + 0.5, (cell / _columns) + 0.5) * _size);

    /// <summary>The number of the stitch that lies on top of a cell; 0: none does. What is said of stitches afterwards is said as if it did.</summary>
    public ref int Top(int cell) => ref _last[cell];

    /// <summary>One more stitch, of which no cell knows yet.</summary>
    public void Add(Point from, Point to)
    {
        _stitches.Add(((from - _corner) / _size, (to - _corner) / _size));
        _directions.Add((to - from).Unit());
    }

    /// <summary>Forgets the last stitches.</summary>
    /// <param name="count">How many are left.</param>
    public void KeepFirst(int count)
    {
        _directions.RemoveRange(count + 1, Count - count);
        _stitches.RemoveRange(count + 1, Count - count);
    }

    /// <summary>Length of the longest piece of a stitch that is alone, mm.</summary>
    public double LongestOf(int stitch)
    {
        _pieces.Clear();
        AddPieces(stitch, 0, _pieces);
        var longest = 0.0;
        foreach (var p in _pieces) longest = Math.Max(longest, p.Length);
        return longest;
    }

    /// <summary>The pieces that are alone and longer than a length, mm.</summary>
    private List<LonePiece> Pieces(double longer)
    {
        var pieces = new List<LonePiece>();
        for (var i = 1; i <= Count; i++) AddPieces(i, longer, pieces);
        return pieces;
    }

    private void AddPieces(int stitch, double longer, List<LonePiece> pieces)
    {
        var ((from, last), along, alone, missed) = (_stitches[stitch], _directions[stitch], 0, 2);
        var length = from.DistanceTo(last);
        for (var k = 0; k < _beside.Length; k++) _beside[k] = along.Normal() * (Beside[k] / _size);
        var (end, least) = ((int)Math.Ceiling(length - 0.5), (int)(longer / _size) + 1);
        for (var d = After(-1); d < end; d = missed > 1 ? After(d) : d + 1)
        {
            // One cell at its edge says little.
            missed = IsAloneAt(d) ? 0 : missed + 1;
            if (missed > 1 && alone > 0) Add(d - 0.5, alone);
            alone = missed > 1 ? 0 : alone + 1 - missed;
        }

        if (alone > 0) Add(length, alone);

        // A piece does not go on over two cells that are not alone. After two such a piece that is long enough goes over the next two that are that far on, or begins beyond.
        int After(int d)
        {
            while (d + least < end && (least == 1 || !IsAloneAt(d + least - 1)) && !IsAloneAt(d + least)) d += least;
            return d + least < end ? d + 1 : end;
        }

        bool IsAloneAt(int d) => IsAlone(stitch, from + (along * (d + 0.5)));

        void Add(double to, int cells)
        {
            if (cells * _size > longer) pieces.Add(new(cells * _size, stitch, _corner + ((from + (along * (to - (cells / 2.0)))) * _size)));
        }
    }

    /// <summary>Whether thread lies on all of a way.</summary>
    public bool IsCovered(Point from, Point to)
    {
        var (begin, end) = ((from - _corner) / _size, (to - _corner) / _size);
        var length = Math.Ceiling(begin.DistanceTo(end));
        for (var d = 0; d <= length; d++)
            if (_last[At(begin.Toward(end, d / Math.Max(1, length)))] == 0)
                return false;
        return true;
    }

    // What lies beside it has to be known.
    private bool IsLookedAt(Point place) => Math.Min(Math.Min(place.X, _columns - place.X), Math.Min(place.Y, _rows - place.Y)) * _size > Known;

    private bool IsAlone(int stitch, Point place)
    {
        if (!IsLookedAt(place) || _last[At(place)] != stitch) return false;
        var (along, crosses) = (_directions[stitch], false);
        for (var side = -1; side <= 1; side += 2)
        {
            for (var k = 0; k < _beside.Length; k++)
            {
                var other = _last[At(place + (_beside[k] * side))];
                if (other == 0 || other == stitch) continue;
                if (Math.Abs(along.Dot(_directions[other])) > CosSameWay) return false;
                crosses |= Beside[k] > Across;
            }
        }

        return crosses;
    }
}
