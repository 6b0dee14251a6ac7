using System.Collections.Immutable;
using System.Globalization;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Hoopings;

/// <summary>
/// Finds the hoopings that a plan is sewn in: as few as possible, and of as many that which shows its seams least. A long hoop is moved along its positions; what is larger than that, or has no such hoop,
/// is hooped again. Of a list of fields, sewing as much as possible as early as possible is always best, so that only the fields and their order are searched.
/// </summary>
public static class FewestHoopings
{
    private const int MostWeighed = 6;
    private const int StitchesWeighed = 250_000;
    private const int MostChunks = 4_000;
    private const int MostTried = 4_000;
    private const int Beam = 24;
    private const int MostPlaces = 14;
    private const double ChunkMm = 12;
    private const int MoreAside = 4;

    // Of ways that show about as much, the one that begins far from the operator is the usual one.
    private const long NearlyAsGood = 200;

    /// <summary>The hoopings for a machine and one of its hoops.</summary>
    /// <exception cref="EditRefusedException">It fits as it is, or cannot be sewn in such fields at all; the message says why, and what would help.</exception>
    public static ImmutableArray<Hooping> For(SewingPlan plan, SewingMachineModel machine, HoopField field) => Find(plan, machine, field).Hoopings;

    /// <summary>The same with the division that shows that they do.</summary>
    internal static (ImmutableArray<Hooping> Hoopings, Division Division) Find(SewingPlan plan, SewingMachineModel machine, HoopField field)
    {
        if (plan.StitchCount == 0) throw new EditRefusedException("There are no stitches in this job to be divided.");
        if (Fits(plan, new(field, Point.Zero))) throw new EditRefusedException($"All of it fits {machine.Name}, {field.Name} as it is; there is nothing to divide.");
        RefuseThrows(plan, field);
        var choice = new HoopChoice(machine.Id, field.Id);
        var cells = ClothCells.Of(plan);
        if (field.Positions > 1 && AlongPositions(plan, field, cells) is var (positions, along)) return ([.. positions.Select(p => new Hooping(choice) { Centre = p.Centre, Position = p.Position })], along);
        if (HoopedAgain(plan, field, cells) is var (again, division)) return ([.. again.Select(f => new Hooping(choice) { Centre = f.Centre })], division);
        throw new EditRefusedException($"No {Job.MostHoopings} hoopings of {field.Name} sew all of it so that what lies under stays under. Use a larger hoop, or make it smaller.");
    }

    /// <summary>A stitch cannot be cut: where one is longer than the field, no division helps.</summary>
    private static void RefuseThrows(SewingPlan plan, HoopField field)
    {
        var records = plan.Records;
        for (var n = 0; n < plan.Parts.Length; n++)
        {
            for (var i = plan.Parts[n].First; i < plan.Parts[n].End; i++)
            {
                if (!Portions.GoesOn(records, i)) continue;
                var (a, b) = (records.At(i - 1), records.At(i));
                if (Math.Abs(a.X - b.X) < field.InnerWidth && Math.Abs(a.Y - b.Y) < field.InnerHeight && (field.Shape == FieldShape.Rectangle || field.Holds((b - a) / 2))) continue;
                throw new EditRefusedException(string.Create(CultureInfo.InvariantCulture, $"“{plan.Parts[n].Name}” has a stitch of {a.DistanceTo(b):0} mm, longer than the field; a stitch cannot be cut. Split its satin, or use a larger hoop."));
            }
        }
    }

    private static bool Fits(SewingPlan plan, PlacedField place)
    {
        for (var i = 0; i < plan.Records.Count; i++)
            if (plan.Records.Kinds[i] == StitchKind.Stitch && !place.Holds(plan.Records.At(i)))
                return false;
        return true;
    }

    /// <summary>The positions of a long hoop to be sewn at, in order; null where they do not do.</summary>
    private static (List<(Point Centre, int Position)> Positions, Division Division)? AlongPositions(SewingPlan plan, HoopField field, ClothCells cells)
    {
        // The hoop as the job lies in it; where that does not do, with the job in its middle.
        foreach (var hoop in new[] { Point.Zero, plan.Bounds.Middle }.Distinct())
        {
            var places = field.AllPositions.Select(p => (Centre: hoop + p.Offset, Position: p.Number)).ToList();
            List<PlacedField> fields = [.. places.Select(p => new PlacedField(field, p.Centre))];
            var (whole, cut) = (new Chunks(plan, cells, fields, cutAll: false), new Chunks(plan, cells, fields, cutAll: true));
            for (var count = 1; count <= Math.Min(Job.MostHoopings, (2 * places.Count) + 1); count++)
            {
                // Where parts stay whole, so much the better; but fewer hoopings come before that.
                foreach (var chunks in new[] { whole, cut })
                {
                    var found = Orders(places.Count, count).Take(MostTried).Where(chunks.Suffice).ToList();
                    if (found.Count > 0 && Best(plan, cells, found.Select(o => o.Select(i => fields[i]).ToList())) is var (best, division))
                        return (best.ConvertAll(f => places.First(p => p.Centre == f.Centre)), division);
                }
            }
        }

        return null;
    }

    /// <summary>The orders of so many out of some, none twice in a row.</summary>
    private static IEnumerable<int[]> Orders(int places, int count)
    {
        if (count == 0) return [[]];
        return Orders(places, count - 1).SelectMany(before => Enumerable.Range(0, places).Where(p => before.Length == 0 || before[^1] != p).Select(p => (int[])[.. before, p]));
    }

    /// <summary>Of several ways the one whose seams cost least; null when none holds.</summary>
    private static (List<PlacedField> Way, Division Division)? Best(SewingPlan plan, ClothCells cells, IEnumerable<List<PlacedField>> ways)
    {
        var holding = ways.Take(Math.Clamp(StitchesWeighed / Math.Max(plan.StitchCount, 1), 1, MostWeighed)).Select(w => (Way: w, Division: Division.Of(plan, w, cells, HoopSplit.Plain))).Where(w => w.Division.Holds).ToList();
        return holding.Count <= 1 ? holding.Select(w => ((List<PlacedField>, Division)?)w).FirstOrDefault()
            : holding.OrderBy(w => w.Division.Cost / NearlyAsGood).ThenBy(w => w.Way[0].Centre.Y).ThenBy(w => w.Way[0].Centre.X).First();
    }

    /// <summary>The fields when cloth is hooped again; null where no division holds.</summary>
    private static (List<PlacedField> Fields, Division Division)? HoopedAgain(SewingPlan plan, HoopField field, ClothCells cells)
    {
        // What surely does: fields side by side, as few as reach from edge to edge; with more in common where a division needs it.
        var box = plan.Bounds;
        var (columns, rows) = ((int)Math.Ceiling(box.Width / field.InnerWidth), (int)Math.Ceiling(box.Height / field.InnerHeight));
        (List<PlacedField> Fields, Division Division)? grid = null;
        foreach (var (across, down) in from across in Enumerable.Range(columns, MoreAside) from down in Enumerable.Range(rows, MoreAside) where across * down is > 1 and <= Job.MostHoopings orderby across * down, Math.Abs(across - down) select (across, down))
        {
            // Fields in which nothing lies are not hooped at all.
            List<PlacedField> all = [.. Places(box.MinY, box.MaxY, field.InnerHeight, down).SelectMany(y => Places(box.MinX, box.MaxX, field.InnerWidth, across).Select(x => new PlacedField(field, new(x, y)))).Where(f => Holds(plan, f))];
            List<PlacedField>[] orders = [all, [.. all.AsEnumerable().Reverse()], [.. all.OrderBy(f => f.Centre.X)], [.. all.OrderByDescending(f => f.Centre.X)]];
            if ((grid = Best(plan, cells, orders.DistinctBy(o => string.Join(' ', o.Select(f => f.Centre))))) is not null) break;
        }

        // Fewer may do where parts leave room between them; not fewer than there are places of which no field holds two.
        var least = Apart(plan, field);
        if (grid is { } sure && sure.Fields.Count <= least) return grid;
        List<PlacedField> corners = [.. Corners(plan, field, grid?.Fields)];
        var (whole, cut) = (new Chunks(plan, cells, corners, cutAll: false), new Chunks(plan, cells, corners, cutAll: true));
        for (var count = least; count < (grid?.Fields.Count ?? Job.MostHoopings); count++)
            foreach (var chunks in new[] { whole, cut })
                if (chunks.Ways(count, Beam, MostTried).Take(MostWeighed).ToList() is { Count: > 0 } ways && Best(plan, cells, ways) is { } fewer)
                    return fewer;
        return grid;
    }

    /// <summary>How many needle points can be named, of which no field holds two: that many hoopings are needed, and two at least.</summary>
    private static int Apart(SewingPlan plan, HoopField field)
    {
        var (records, middle) = (plan.Records, plan.Bounds.Middle);
        var every = Math.Max(1, plan.StitchCount / MostChunks);
        var points = Enumerable.Range(0, records.Count).Where(i => records.Kinds[i] == StitchKind.Stitch).Where((_, n) => n % every == 0).Select(records.At).OrderByDescending(p => Math.Abs(p.X - middle.X) + Math.Abs(p.Y - middle.Y));
        var apart = new List<Point>();
        foreach (var p in points)
            if (apart.TrueForAll(q => Math.Abs(q.X - p.X) > field.InnerWidth + 0.2 || Math.Abs(q.Y - p.Y) > field.InnerHeight + 0.2))
                apart.Add(p);
        return Math.Max(2, apart.Count);
    }

    private static bool Holds(SewingPlan plan, PlacedField field)
    {
        for (var i = 0; i < plan.Records.Count; i++)
            if (plan.Records.Kinds[i] == StitchKind.Stitch && field.Holds(plan.Records.At(i)))
                return true;
        return false;
    }

    /// <summary>The middles of so many fields side by side over a length.</summary>
    private static IEnumerable<double> Places(double from, double to, double field, int count) =>
        count == 1 ? [(from + to) / 2] : Enumerable.Range(0, count).Select(i => from + (field / 2) + ((to - from - field) * i / (count - 1)));

    /// <summary>Fields worth trying: a field can always be moved until the left edge of something lies on its left edge, and the upper on the upper.</summary>
    private static IEnumerable<PlacedField> Corners(SewingPlan plan, HoopField field, List<PlacedField>? grid)
    {
        var boxes = plan.Parts.Where(p => !p.Bounds.IsEmpty).Select(p => p.Bounds).ToList();
        var xs = Few([plan.Bounds.MinX + (field.InnerWidth / 2), plan.Bounds.MaxX - (field.InnerWidth / 2), .. boxes.Select(b => b.MinX + (field.InnerWidth / 2)), .. boxes.Select(b => b.MaxX - (field.InnerWidth / 2))]);
        var ys = Few([plan.Bounds.MinY + (field.InnerHeight / 2), plan.Bounds.MaxY - (field.InnerHeight / 2), .. boxes.Select(b => b.MinY + (field.InnerHeight / 2)), .. boxes.Select(b => b.MaxY - (field.InnerHeight / 2))]);
        return [.. grid ?? [], .. xs.SelectMany(x => ys.Select(y => new PlacedField(field, new(x, y))))];

        // The outermost always, of the others as many as can be looked at, evenly.
        static List<double> Few(IReadOnlyList<double> all)
        {
            var sorted = all.Select(v => Math.Round(v, 3)).Distinct().Order().ToList();
            return sorted.Count <= MostPlaces ? sorted : [.. Enumerable.Range(0, MostPlaces).Select(i => sorted[i * (sorted.Count - 1) / (MostPlaces - 1)]).Union(all.Take(2).Select(v => Math.Round(v, 3)))];
        }
    }

    /// <summary>A plan in chunks for the search: parts that a field takes whole, of others, or of all, stretches of a centimetre.</summary>
    private sealed class Chunks
    {
        private readonly List<Portion> _chunks;
        private readonly Layering _layers;
        private readonly bool[][] _fits;

        public Chunks(SewingPlan plan, ClothCells cells, List<PlacedField> fields, bool cutAll)
        {
            Fields = fields;
            var cutting = new Portions(plan);
            var chunkMm = ChunkMm * Math.Max(1, Math.Sqrt(plan.StitchCount / (20.0 * MostChunks)));
            _chunks = [.. cutting.Whole().SelectMany(whole => !cutAll && fields.Exists(f => f.Holds(whole.Bounds)) ? [whole] : Chunked(plan, cutting, whole, chunkMm))];
            _layers = Layering.Of(plan, cells.Only(cells.SharedBy(fields)), _chunks);
            _fits = [.. fields.Select(f => _chunks.Select(c => f.Holds(c.Bounds)).ToArray())];
        }

        /// <summary>The fields that are tried.</summary>
        public List<PlacedField> Fields { get; }

        /// <summary>Whether fields in this order sew everything.</summary>
        public bool Suffice(int[] order)
        {
            var done = new bool[_chunks.Count];
            return order.Sum(f => Take(f, done)) == _chunks.Count;
        }

        /// <summary>Ways of so many fields that sew everything, found by going on from the most promising only.</summary>
        public IEnumerable<List<PlacedField>> Ways(int count, int beam, int most)
        {
            var front = new List<(List<int> Order, bool[] Done, int Taken)> { ([], new bool[_chunks.Count], 0) };
            for (var step = 0; step < count && front.Count > 0; step++)
            {
                var next = new List<(List<int> Order, bool[] Done, int Taken)>();
                var tried = 0;
                foreach (var (order, done, taken) in front)
                {
                    for (var f = 0; f < Fields.Count && tried++ < most; f++)
                    {
                        var after = done.ToArray();
                        var more = Take(f, after);
                        if (more > 0) next.Add(([.. order, f], after, taken + more));
                    }
                }

                var whole = next.Where(w => w.Taken == _chunks.Count).ToList();
                if (whole.Count > 0) return whole.Select(w => w.Order.Select(f => Fields[f]).ToList());
                front = [.. next.OrderByDescending(w => w.Taken).DistinctBy(w => string.Concat(w.Done.Select(d => d ? '1' : '0'))).Take(beam)];
            }

            return [];
        }

        /// <summary>Takes all that a field holds and that nothing underneath keeps waiting; tells how much that was.</summary>
        private int Take(int field, bool[] done)
        {
            var (taken, fits) = (0, _fits[field]);
            WorkBudget.Current.Spend(_chunks.Count / 4);
            for (var b = 0; b < _chunks.Count; b++)
            {
                if (done[b] || !fits[b]) continue;
                var waits = false;
                foreach (var a in _layers.LowerOf(b)) waits |= !done[a];
                if (waits) continue;
                done[b] = true;
                taken++;
            }

            return taken;
        }

        private static IEnumerable<Portion> Chunked(SewingPlan plan, Portions cutting, Portion whole, double chunkMm)
        {
            var (first, box) = (whole.First, Box.Empty);
            for (var i = whole.First; i < whole.End; i++)
            {
                var p = plan.Records.At(i);
                if (i > first && cutting.Before(i) < Cutting.Never && box.With(p) is var with && (Math.Max(with.Width, with.Height) > chunkMm || cutting.Before(i) <= Cutting.Trims))
                {
                    yield return whole with { First = first, End = i, Bounds = box };
                    (first, box) = (i, Portions.GoesOn(plan.Records, i) ? Box.Around([plan.Records.At(i - 1)]) : Box.Empty);
                }

                if (plan.Records.Kinds[i] == StitchKind.Stitch) box = box.With(p);
            }

            yield return whole with { First = first, Bounds = box };
        }
    }
}
