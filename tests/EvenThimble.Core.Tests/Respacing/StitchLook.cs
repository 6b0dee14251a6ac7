using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests.Quality;

namespace EvenThimble.Core.Tests.Respacing;

/// <summary>What stitches look like and how they are made up, measured without the code that reads or makes them.</summary>
internal static class StitchLook
{
    public const double PixelsPerMm = 10;

    /// <summary>Stitches as black thread of 0.4 mm. With a scale the drawing is enlarged, with the thread when asked: a thread is as thick at any size, but rows that are drawn apart leave gaps. Extra is added to the thread, mm.</summary>
    public static byte[] Picture(StitchBlob blob, Box box, double scale = 1, bool threadGrows = false, double extra = 0)
    {
        var raster = new Raster(box.MinX - 2, box.MinY - 2, ColumnsOf(box), (int)((box.Height + 4) * PixelsPerMm), PixelsPerMm);
        var covered = raster.Covered(Stitches(blob).Select(s => (s.A * scale, s.B * scale)), threadGrows ? 0.4 * scale : 0.4 + extra);
        return Array.ConvertAll(covered, c => (byte)(byte.MaxValue - c));
    }

    /// <summary>Part of the thread's picture (0 to 1) that two pictures share.</summary>
    public static double Alike(byte[] a, byte[] b) => Alike(Array.ConvertAll(a, p => p < 128), Array.ConvertAll(b, p => p < 128));

    /// <summary>Part of two patches (0 to 1) that both cover.</summary>
    public static double Alike(bool[] a, bool[] b)
    {
        var (same, either) = (0, 0);
        for (var i = 0; i < a.Length; i++)
        {
            if (a[i] || b[i]) either++;
            if (a[i] && b[i]) same++;
        }

        return either == 0 ? 1 : same / (double)either;
    }

    /// <summary>Part of all pixels (0 to 1) that are dark or light in both pictures.</summary>
    public static double SamePixels(byte[] a, byte[] b)
    {
        var same = 0;
        for (var i = 0; i < a.Length; i++)
            if (a[i] < 128 == b[i] < 128)
                same++;
        return same / (double)a.Length;
    }

    /// <summary>All stitches, from needle point to needle point.</summary>
    public static IEnumerable<(Point A, Point B)> Stitches(StitchBlob blob)
    {
        for (var i = 1; i < blob.Count; i++)
            if (blob.Kinds[i] == StitchKind.Stitch && blob.Kinds[i - 1] == StitchKind.Stitch)
                yield return (blob.At(i - 1), blob.At(i));
    }

    /// <summary>Length of all thread, mm.</summary>
    public static double Thread(StitchBlob blob) => Stitches(blob).Sum(s => s.A.DistanceTo(s.B));

    /// <summary>Stitches that are not small ones at the start or end of a thread.</summary>
    public static List<double> LengthsWithoutTies(StitchBlob blob)
    {
        var lengths = new List<double>();
        for (var i = 0; i < blob.Count;)
        {
            if (blob.Kinds[i] != StitchKind.Stitch)
            {
                i++;
                continue;
            }

            var end = i;
            while (end < blob.Count && blob.Kinds[end] == StitchKind.Stitch) end++;
            for (var k = i + 5; k < end - 5; k++) lengths.Add(blob.At(k - 1).DistanceTo(blob.At(k)));
            i = end;
        }

        return lengths;
    }

    /// <summary>Distances between neighbouring lines of thread along many cuts across stitches, the usual one: what lies between rows or throws.</summary>
    public static double UsualSpacing(StitchBlob blob, Point from, Point to)
    {
        // Where the cut crosses stitches.
        var crossings = new List<double>();
        var cut = to - from;
        foreach (var (a, b) in Stitches(blob))
        {
            var stitch = b - a;
            var cross = cut.Cross(stitch);
            if (Math.Abs(cross) < 1e-9 || stitch.Length < 1) continue;
            var (t, u) = ((a - from).Cross(stitch) / cross, (a - from).Cross(cut) / cross);
            if (t is > 0 and < 1 && u is >= 0 and < 1) crossings.Add(t * cut.Length);
        }

        crossings.Sort();
        var gaps = crossings.Zip(crossings.Skip(1), (a, b) => b - a).Where(g => g > 0.02).Order().ToList();
        return gaps.Count == 0 ? 0 : (crossings[^1] - crossings[0]) / (crossings.Count - 1);
    }

    /// <summary>
    /// Places inside what is covered with how far they lie from the edge of the patch, mm, up to a reach: evenly spread, the same ones for the same stitches.
    /// </summary>
    public static List<(Point At, double ToEdge)> Inside(StitchBlob blob, double reach)
    {
        const int most = 4000;
        var box = blob.BoundsOf(0, blob.Count);
        var apart = Math.Max(0.7, Math.Sqrt(box.Width * box.Height / most));
        var (patch, columns) = (Patch(blob, box, 0.45), ColumnsOf(box));
        var toBare = Nearest(Array.ConvertAll(patch, p => !p), columns, reach + 0.1);
        var places = new List<(Point, double)>();
        for (var y = box.MinY; y <= box.MaxY; y += apart)
            for (var x = box.MinX; x <= box.MaxX; x += apart)
                if (((int)((y - box.MinY + 2) * PixelsPerMm) * columns) + (int)((x - box.MinX + 2) * PixelsPerMm) is var i && i < toBare.Length && toBare[i] > 0)
                    places.Add((new(x, y), toBare[i]));
        return places;
    }

    /// <summary>Length of thread (mm) within a reach of places, all together; the reach is that of a disc.</summary>
    public static double ThreadNear(StitchBlob blob, IReadOnlyList<Point> places, double reach)
    {
        var near = places.ToLookup(p => ((int)Math.Floor(p.X / reach), (int)Math.Floor(p.Y / reach)));
        var sum = 0.0;
        foreach (var (a, b) in Stitches(blob))
        {
            var (x0, x1, y0, y1) = (Math.Min(a.X, b.X) - reach, Math.Max(a.X, b.X) + reach, Math.Min(a.Y, b.Y) - reach, Math.Max(a.Y, b.Y) + reach);
            for (var column = (int)Math.Floor(x0 / reach); column <= (int)Math.Floor(x1 / reach); column++)
                for (var row = (int)Math.Floor(y0 / reach); row <= (int)Math.Floor(y1 / reach); row++)
                    foreach (var p in near[(column, row)])
                        sum += Within(a - p, b - a, reach);
        }

        return sum;

        // How much of a line lies in a disc about the origin.
        static double Within(Point from, Point way, double reach)
        {
            var (length, unit) = (way.Length, way.Unit());
            var (middle, beside) = (-from.Dot(unit), Math.Abs(from.Cross(unit)));
            if (beside >= reach) return 0;
            var half = Math.Sqrt((reach * reach) - (beside * beside));
            return Math.Max(0, Math.Min(length, middle + half) - Math.Max(0, middle - half));
        }
    }

    /// <summary>
    /// What the eye takes for one patch: thread of 0.4 mm, closed over the gaps that rows or throws leave between them when stitches are only drawn larger. True where it is covered.
    /// </summary>
    public static bool[] Patch(StitchBlob blob, Box box, double gap, double drawnAt = 1)
    {
        var thick = Picture(blob, box, drawnAt, extra: 2 * gap);
        var toLight = Nearest(Array.ConvertAll(thick, p => p >= 128), ColumnsOf(box), gap + 0.1);
        return Array.ConvertAll(toLight, d => d > gap);
    }

    /// <summary>How far edges lie apart: the largest distance (mm) from a covered place of one patch to the nearest of the other, but for the farthest thousandth; and the very largest of the second's.</summary>
    public static (double Edge, double Stray) EdgeErrors(bool[] was, bool[] now, Box box)
    {
        var (lost, added) = (Beyond(was, now), Beyond(now, was));
        return (Math.Max(AllButThousandth(lost, was), AllButThousandth(added, now)), added.Count == 0 ? 0 : added[^1]);

        List<double> Beyond(bool[] of, bool[] to)
        {
            var errors = Nearest(to, ColumnsOf(box), of: of).Where(d => d > 0).ToList();
            errors.Sort();
            return errors;
        }

        static double AllButThousandth(List<double> errors, bool[] of) => errors.Count - (of.Count(p => p) / 1000) is > 0 and var left ? errors[left - 1] : 0;
    }

    public static int ColumnsOf(Box box) => (int)((box.Width + 4) * PixelsPerMm);

    /// <summary>How far each pixel, or each of those asked for, lies from the nearest that is set, mm, up to a reach: first along columns, then across. Of those not asked for it is 0.</summary>
    public static double[] Nearest(bool[] set, int columns, double upTo = 1.2, bool[]? of = null)
    {
        var reach = (int)Math.Ceiling(upTo * PixelsPerMm);
        var down = new int[set.Length];
        for (var i = 0; i < set.Length; i++) down[i] = set[i] ? 0 : Math.Min(reach, i < columns ? reach : down[i - columns] + 1);
        for (var i = set.Length - columns - 1; i >= 0; i--) down[i] = Math.Min(down[i], down[i + columns] + 1);
        var nearest = new double[set.Length];
        for (int i = 0, column = 0; i < set.Length; i++, column = column + 1 == columns ? 0 : column + 1)
        {
            if (of is not null && !of[i]) continue;
            var least = down[i] * down[i];
            for (var dx = 1; dx * dx < least; dx++)
            {
                if (dx <= column && down[i - dx] is var left && (dx * dx) + (left * left) < least) least = (dx * dx) + (left * left);
                if (column + dx < columns && down[i + dx] is var right && (dx * dx) + (right * right) < least) least = (dx * dx) + (right * right);
            }

            nearest[i] = Math.Sqrt(least) / PixelsPerMm;
        }

        return nearest;
    }
}
