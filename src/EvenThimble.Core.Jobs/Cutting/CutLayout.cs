using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Cutting;

/// <summary>A piece on the mat.</summary>
/// <param name="Piece">Which.</param>
/// <param name="Copy">Which copy, from 0.</param>
/// <param name="Middle">Where the middle of the rectangle about it lies, mm from the far left corner of the mat.</param>
/// <param name="TurnDegrees">Turned clockwise.</param>
/// <param name="ByHand">It was laid by hand.</param>
/// <param name="Rings">Its edges on the mat, the outer one first.</param>
public sealed record LaidPiece(CutPiece Piece, int Copy, Point Middle, double TurnDegrees, bool ByHand, ImmutableArray<ImmutableArray<Point>> Rings);

/// <summary>What is cut at once from one material.</summary>
/// <param name="Material">What it is cut from.</param>
/// <param name="Number">Its number among those of the material, from 1.</param>
/// <param name="Of">How many there are of the material.</param>
/// <param name="Width">Across the mat, mm.</param>
/// <param name="Height">Down the mat, mm.</param>
/// <param name="Pieces">What lies on it.</param>
public sealed record CutSheet(string Material, int Number, int Of, double Width, double Height, ImmutableArray<LaidPiece> Pieces)
{
    /// <summary>The rectangle about all pieces, mm on the mat.</summary>
    public Box Used => Box.Around(Pieces.SelectMany(p => p.Rings[0]));

    /// <summary>What of a piece of cloth as large as the rectangle about all is left over, mm².</summary>
    public double OffcutMm2 => Math.Max(0, (Used.Width * Used.Height) - Pieces.Sum(p => p.Piece.SquareMm));

    /// <summary>As the user reads it.</summary>
    public string Name => Of == 1 ? Material : $"{Material}, sheet {Number} of {Of}";
}

/// <summary>Pieces laid on sheets.</summary>
/// <param name="Sheets">The sheets, by material.</param>
/// <param name="Findings">What does not fit or lies badly.</param>
public sealed record CutLayout(ImmutableArray<CutSheet> Sheets, ImmutableArray<CutFinding> Findings)
{
    /// <summary>The side of the square that is cut to be measured, mm.</summary>
    public const double SquareMm = 20;

    private const int MostSheets = 200;

    /// <summary>The name that the square to be measured is known by.</summary>
    public static readonly CutKey SquareKey = new(CutLines.Edge, 4_999);

    /// <summary>What a square to be measured is, as a piece of a material.</summary>
    public static CutPiece Square(string material) => new(SquareKey, "Test square, 20 mm", material, [[new(0, 0), new(SquareMm, 0), new(SquareMm, SquareMm), new(0, SquareMm)]], SquareMm * SquareMm);

    /// <summary>Lays copies of pieces on mats.</summary>
    /// <param name="pieces">The pieces.</param>
    /// <param name="copies">How many of each.</param>
    /// <param name="width">Across the mat, mm.</param>
    /// <param name="height">Down the mat, mm.</param>
    /// <param name="gap">Distance between pieces, mm.</param>
    /// <param name="mirrored">Cut mirrored.</param>
    /// <param name="turning">How they may be turned.</param>
    /// <param name="square">A square to be measured goes on the first sheet of each material.</param>
    /// <param name="byHand">What was laid by hand.</param>
    public static CutLayout Lay(IReadOnlyList<CutPiece> pieces, int copies, double width, double height, double gap, bool mirrored, CutTurning turning, bool square = false, IReadOnlyList<LaidByHand>? byHand = null)
    {
        var (sheets, findings) = (new List<CutSheet>(), new List<CutFinding>());
        foreach (var group in pieces.GroupBy(p => p.Material))
        {
            var wanted = group.OrderByDescending(p => p.SquareMm).SelectMany(p => Enumerable.Range(0, copies).Select(c => (Piece: p, Copy: c))).ToList();
            if (square) wanted.Insert(0, (Square(group.Key), 0));
            var laid = new Laying(width, height, gap, mirrored, turning, findings).Lay(wanted, byHand ?? []);
            sheets.AddRange(laid.Select((l, n) => new CutSheet(group.Key, n + 1, laid.Count, width, height, [.. l])));
        }

        return new([.. sheets], [.. findings]);
    }

    /// <summary>Pieces of one material being laid.</summary>
    private sealed class Laying(double width, double height, double gap, bool mirrored, CutTurning turning, List<CutFinding> findings)
    {
        private readonly List<(MatRows Rows, List<LaidPiece> Pieces)> _mats = [];
        private readonly Dictionary<(CutKey, double Turn), MatRows.Print> _prints = [];

        public List<List<LaidPiece>> Lay(List<(CutPiece Piece, int Copy)> wanted, IReadOnlyList<LaidByHand> byHand)
        {
            foreach (var hand in byHand)
            {
                if (wanted.FindIndex(w => w.Piece.Key == hand.Piece && w.Copy == hand.Copy) is not (>= 0 and var index)) continue;
                LayByHand(wanted[index].Piece, hand);
                wanted.RemoveAt(index);
            }

            // Of like pieces none fits before the one laid before it.
            var from = new Dictionary<(CutKey, double), (int Mat, int Row, int Column)>();
            var tooLarge = new HashSet<CutKey>();
            foreach (var (piece, copy) in wanted)
            {
                if (tooLarge.Contains(piece.Key)) continue;
                if (!LayFirst(piece, copy, from)) tooLarge.Add(piece.Key);
            }

            foreach (var piece in wanted.Select(w => w.Piece).Where(p => tooLarge.Contains(p.Key)).DistinctBy(p => p.Key))
                findings.Add(new(piece.Key, $"“{piece.Name}” is {LengthText.Decimals(piece.Bounds.Width, 0)} × {LengthText.Decimals(piece.Bounds.Height, 0)} mm with its allowance; on the mat there is room for {LengthText.Decimals(width - gap, 0)} × {LengthText.Decimals(height - gap, 0)} mm.", "Choose a larger mat, let it be turned, or take a smaller gap.", true));
            return [.. _mats.Select(m => m.Pieces).Where(p => p.Count > 0)];
        }

        private bool LayFirst(CutPiece piece, int copy, Dictionary<(CutKey, double), (int Mat, int Row, int Column)> from)
        {
            for (var mat = 0; mat < MostSheets; mat++)
            {
                (double Turn, MatRows.Print Print, int Row, int Column, double End)? best = null;
                var rows = Mat(mat).Rows;
                foreach (var turn in Turns())
                {
                    var known = from.TryGetValue((piece.Key, turn), out var f) ? f : default;
                    if (known.Mat > mat) continue;
                    var print = PrintOf(piece, turn);
                    if (rows.FirstPlace(print, known.Mat == mat ? (known.Row, known.Column) : (0, 0)) is not { } place)
                    {
                        from[(piece.Key, turn)] = (mat + 1, 0, 0);
                        continue;
                    }

                    from[(piece.Key, turn)] = (mat, place.Row, place.Column);
                    var end = (place.Row + print.Rows.Length) + (place.Column * 1e-4);
                    if (best is null || end < best.Value.End - 1e-9) best = (turn, print, place.Row, place.Column, end);
                }

                if (best is { } found)
                {
                    rows.Take(found.Print, found.Row, found.Column);
                    Mat(mat).Pieces.Add(Laid(piece, copy, (new Point(found.Column, found.Row) * MatRows.SideMm) - found.Print.Corner, found.Turn, false));
                    return true;
                }

                if (Mat(mat).Pieces.Count == 0) return false;
            }

            return false;
        }

        private void LayByHand(CutPiece piece, LaidByHand hand)
        {
            var laid = Laid(piece, hand.Copy, new(hand.X, hand.Y), hand.TurnDegrees, true);
            var mat = Mat(hand.Sheet);
            var box = Box.Around(laid.Rings[0]);
            if (box.MinX < 0 || box.MinY < 0 || box.MaxX > width || box.MaxY > height) findings.Add(new(piece.Key, $"“{piece.Name}” reaches over the edge of the mat.", "Move it in, or lay all anew.", true));
            if (mat.Pieces.Exists(o => Box.Around(o.Rings[0]).Meets(box) && Area.Of([o.Rings[0]])[0].Meets(Area.Of([laid.Rings[0]])[0]))) findings.Add(new(piece.Key, $"“{piece.Name}” lies over another piece.", "Move it, or lay all anew.", true));
            mat.Pieces.Add(laid);
            var print = PrintOf(piece, hand.TurnDegrees);
            var corner = (laid.Middle + print.Corner) / MatRows.SideMm;
            mat.Rows.Take(print, (int)Math.Floor(corner.Y), Math.Max(0, (int)Math.Floor(corner.X)));
        }

        private (MatRows Rows, List<LaidPiece> Pieces) Mat(int number)
        {
            while (_mats.Count <= number) _mats.Add((new(width, height), []));
            return _mats[number];
        }

        private double[] Turns() => turning switch { CutTurning.Never => [0], CutTurning.HalfTurns => [0, 180], _ => [0, 90, 180, 270] };

        private MatRows.Print PrintOf(CutPiece piece, double turn)
        {
            if (!_prints.TryGetValue((piece.Key, turn), out var print)) _prints[(piece.Key, turn)] = print = new([.. AboutMiddle(piece, turn).Take(1)], gap);
            return print;
        }

        private LaidPiece Laid(CutPiece piece, int copy, Point middle, double turn, bool byHand) =>
            new(piece, copy, middle, turn, byHand, [.. AboutMiddle(piece, turn).Select(r => r.Select(p => p + middle).ToImmutableArray())]);

        /// <summary>The edges about the middle of the rectangle about the piece, mirrored and turned.</summary>
        private IEnumerable<Point[]> AboutMiddle(CutPiece piece, double turn)
        {
            var middle = piece.Bounds.Middle;
            return piece.Rings.Select(r => r.Select(p => p - middle).Select(p => mirrored ? new Point(-p.X, p.Y) : p).Select(p => p.Turned(turn, Point.Zero)).ToArray());
        }
    }
}
