using System.Collections.Immutable;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.Monograms;

/// <summary>A piece of a frame: what is sewn in one thread, one way.</summary>
/// <param name="Name">As the user reads it.</param>
/// <param name="Shape">What is drawn, mm.</param>
/// <param name="Settings">How it is stitched.</param>
public sealed record FramePiece(string Name, DrawnShape Shape, StitchSettings Settings)
{
    /// <summary>Points of the edges of what it covers, mm: what distances are measured from.</summary>
    internal IEnumerable<Point> Ink => Settings.Way switch
    {
        StitchWay.LineSatin => Shape.Paths.SelectMany(p => Band(p.Flattened(), p.Closed, (Settings.WidthMm ?? StitchSettings.UsualWidth) / 2)),
        StitchWay.MotifRow => Shape.Paths.SelectMany(p => MotifRow.Along(p.Closed ? [.. p.Flattened(), p.Nodes[0].At] : p.Flattened(), Motifs.Find(Settings.Motif)!, Settings.MotifLengthMm ?? StitchSettings.UsualMotifLength, Settings.MotifTurn)),
        _ => Shape.Paths.SelectMany(p => p.Flattened()),
    };

    private static IEnumerable<Point> Band(List<Point> line, bool closed, double half) => Polylines.Offset(line, _ => half, closed).Concat(Polylines.Offset(line, _ => -half, closed));
}

/// <summary>
/// What can lie around letters: lines, ropes, rows of motifs, leaves and stars. It is drawn along a line, closed or open, in whole motifs, as many as come nearest to their usual distance, all equally far apart.
/// </summary>
public sealed class MonogramFrame : IEquatable<MonogramFrame>
{
    /// <summary>The short name of a frame that is made of something drawn.</summary>
    public const string OwnId = "own";

    private readonly Func<Around, IEnumerable<FramePiece>> _draw;

    private MonogramFrame(string id, string name, Func<Around, IEnumerable<FramePiece>> draw) => (Id, Name, _draw) = (id, name, draw);

    /// <summary>All frames, the plainest first.</summary>
    public static IReadOnlyList<MonogramFrame> All { get; } =
    [
        new("ring", "ring", a => [Line("ring", a, new(StitchWay.LineSatin) { WidthMm = 2.2 })]),
        new("fine-ring", "fine ring", a => [Line("ring", a, new(StitchWay.TripleRun))]),
        new("double-ring", "double ring", a => [Line("inner ring", a, new(StitchWay.LineSatin) { WidthMm = 1.8 }), Line("outer ring", a.Outside(2.6), new(StitchWay.TripleRun))]),
        new("rope", "rope", a => [OnLine("rope", a.Each(4.2, 1, Strand), a.Way)]),
        new("pearls", "pearls", a => [OnLine("pearls", a.Each(4.4, 1, p => [p.Drawn(BasicShapes.Ellipse(3, 3))]), a.Way)]),
        new("kites", "kites", a => [OnLine("kites", a.Each(4.4, 1, p => [p.Drawn(BasicShapes.Polygon(3, 4.4, 4))]), a.Way)]),
        new("stars", "stars", a => [OnLine("stars", a.Each(9.5, 1, p => [p.Drawn(BasicShapes.Star(6.4, 6.4, 5, 0.44))]))]),
        new("scallops", "scallops", a => [Line("scallops", a.Scallops(8.5, 3.4), new(StitchWay.LineSatin) { WidthMm = 1.6 }), Line("ring", a, new(StitchWay.TripleRun))]),
        new("laurel", "laurel", Laurel),
        new("laurel-ring", "ring and laurel", a => [Line("ring", a, new(StitchWay.LineSatin) { WidthMm = 1.8 }), .. Laurel(a.Outside(6.6))]),
        new("wreath", "wreath of leaves", a => [Motifs("leaves", a, "leaf", 7, MotifTurn.Alternating)]),
        new("orbits", "orbits", a => [Motifs("orbits", a, "orbit", 8.5, MotifTurn.Alike)]),
        new("hearts", "hearts", a => [Motifs("hearts", a, "heart", 7.5, MotifTurn.Alike)]),
        new("rays", "rays", a => [OnLine("rays", a.Each(3.4, 2, Ray), a.Way)]),
    ];

    /// <summary>Every motif as a row around, for borders.</summary>
    public static IReadOnlyList<MonogramFrame> OfMotifs { get; } = [.. Digitizing.Lines.Motifs.All.Select(m => new MonogramFrame($"motif-{m.Id}", m.Name, a => [Motifs(m.Name, a, m.Id, 7, MotifTurn.Alike)]))];

    /// <summary>A frame made of something that was drawn, in whole motifs; a line whose ends are level goes on from each to the next, and around corners.</summary>
    /// <exception cref="EditRefusedException">None can be made of it.</exception>
    public static MonogramFrame Of(OwnMotif motif)
    {
        motif.Check();
        return new(OwnId, motif.Name, a => [new(motif.Name, new(a.Repeated(motif), motif.Shape.Rule), motif.Settings with { Start = null, End = null })]) { Own = motif };
    }

    /// <summary>What was drawn that it is made of; null: it is one of those that come with the program.</summary>
    public OwnMotif? Own { get; private init; }

    /// <summary>Short name in files.</summary>
    public string Id { get; }

    /// <summary>As the user reads it.</summary>
    public string Name { get; }

    /// <summary>The frame of a short name; null: there is none.</summary>
    public static MonogramFrame? Find(string? id) => All.FirstOrDefault(f => f.Id == id || f.Name == id) ?? OfMotifs.FirstOrDefault(f => f.Id == id);

    /// <summary>Equal when they are the same, or made of the same.</summary>
    public bool Equals(MonogramFrame? other) => other is not null && Id == other.Id && Own == other.Own;

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as MonogramFrame);

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Id, Own);

    /// <summary>Draws it along a closed line.</summary>
    /// <param name="line">Its points, clockwise from the topmost middle, without the first repeated, mm.</param>
    /// <param name="counts">How many motifs it had, where that may be held.</param>
    public IReadOnlyList<FramePiece> Along(IReadOnlyList<Point> line, MotifCounts? counts = null)
    {
        counts?.Begin();
        return [.. _draw(new(line, closed: true) { Counts = counts })];
    }

    /// <summary>Draws it along an open line, what is outside lying on its left.</summary>
    public IReadOnlyList<FramePiece> AlongOpen(IReadOnlyList<Point> line) => [.. _draw(new(line, closed: false))];

    /// <summary>Whether the length of motifs in a row is one that a frame chose, rather than one that was typed: it divides the line into whole motifs.</summary>
    public static bool IsChosen(DrawnShape row, double motifLength)
    {
        var motifs = row.Paths.Sum(p => Polylines.Length(p.Closed ? [.. p.Flattened(), p.Nodes[0].At] : p.Flattened())) / motifLength;
        return Math.Abs(motifs - Math.Round(motifs)) < 0.005;
    }

    private static FramePiece Line(string name, Around around, StitchSettings settings) => new(name, new([ShapePath.Through(around.Line, around.Closed)]), settings);

    private static FramePiece Motifs(string name, Around around, string motif, double length, MotifTurn turn) =>
        Line(name, around, new(StitchWay.MotifRow) { Motif = motif, MotifLengthMm = around.Dividing(length), MotifTurn = turn });

    /// <summary>Satin motifs; from one to the next the needle goes along the ways, where there are any.</summary>
    private static FramePiece OnLine(string name, IEnumerable<DrawnShape> shapes, params IEnumerable<ShapePath> ways) => new(name, new([.. shapes.SelectMany(s => s.Paths), .. ways]), new(StitchWay.Satin));

    /// <summary>One strand of a rope: from its inner to its outer edge, leaning on.</summary>
    private static IEnumerable<DrawnShape> Strand(Place p)
    {
        const double half = 1.7, lean = 0.4, gap = 0.18;
        double Leaning(double across) => lean * p.Pitch * Math.Sin(Math.PI / 2 * across);
        var across = Enumerable.Range(-6, 13).Select(i => i / 6.0).ToList();
        var fore = across.Select(a => new Point(Leaning(a) + (p.Pitch * (0.5 - (gap / 2))), -a * half));
        var back = across.AsEnumerable().Reverse().Select(a => new Point(Leaning(a) - (p.Pitch * (0.5 - (gap / 2))), -a * half));
        yield return new([ShapePath.Through(fore.Concat(back).Select(p.OnLine), closed: true)]);
    }

    private static IEnumerable<DrawnShape> Ray(Place p)
    {
        const double half = 0.7;
        var length = p.Number % 2 == 0 ? 4.4 : 2.8;
        yield return new([ShapePath.Through(new Point[] { new(-half, 0), new(half, 0), new(half, -length), new(-half, -length) }.Select(p.OnLine), closed: true)]);
    }

    /// <summary>Two branches from below, their leaves in pairs, open above.</summary>
    private static IEnumerable<FramePiece> Laurel(Around around)
    {
        const double open = 0.07, pitch = 4.6, leaf = 6.2, thick = 2.3, spread = 34;
        var (stems, leaves) = (new List<ShapePath>(), new List<DrawnShape>());
        foreach (var side in new[] { 1, -1 })
        {
            // From the lowest place up, clockwise on the left and the other way on the right; along an open line from its middle to both ends.
            var (from, to) = (0.5, around.Closed ? side > 0 ? 1 - open : open : side > 0 ? 1 : 0);
            var length = around.Length * Math.Abs(to - from);
            var pairs = around.Count(Math.Max(2, (int)Math.Round(length / pitch)), 1);
            stems.Add(ShapePath.Through(Enumerable.Range(0, 61).Select(i => around.At(from + ((to - from) * i / 60)).At), closed: false));
            for (var i = 1; i <= pairs; i++)
            {
                var place = around.At(from + ((to - from) * (i - 0.5) / pairs));
                var along = place.Along * side;
                foreach (var turn in new[] { spread, -spread })
                {
                    var way = along.Turned(turn, Point.Zero);
                    leaves.Add(Leaf(place.At + (way * 0.7), way, leaf, thick));
                }
            }

            if (around.At(to) is var tip) leaves.Add(Leaf(tip.At, tip.Along * side, leaf * 0.8, thick));
        }

        yield return new("stems", new([.. stems]), new(StitchWay.TripleRun));
        yield return OnLine("leaves", leaves, stems);
    }

    private static DrawnShape Leaf(Point foot, Point way, double length, double thick)
    {
        var across = way.Normal();
        Point On(double along, double aside) => foot + (way * (along * length)) + (across * (aside * thick / 2));
        double Half(double along) => Math.Sin(Math.PI * Math.Pow(along, 0.8));
        var steps = Enumerable.Range(1, 11).Select(i => i / 12.0).ToList();
        return new([ShapePath.Through([On(0, 0), .. steps.Select(t => On(t, Half(t))), On(1, 0), .. steps.AsEnumerable().Reverse().Select(t => On(t, -Half(t)))], closed: true)]);
    }

    /// <summary>A place on the line that a motif stands on.</summary>
    /// <param name="Number">Which motif, from 0.</param>
    /// <param name="At">The place.</param>
    /// <param name="Along">The direction of the line there.</param>
    /// <param name="Pitch">From motif to motif, mm.</param>
    private sealed record Place(int Number, Point At, Point Along, double Pitch)
    {
        /// <summary>The direction away from the letters.</summary>
        public Point Outward => Along.Normal();

        /// <summary>Where a point lies that is told along the line and, upwards, away from it.</summary>
        public Point OnLine(Point p) => At + (Along * p.X) - (Outward * p.Y);

        public DrawnShape Drawn(DrawnShape shape) => shape.Moved(OnLine);
    }

    /// <summary>A line that a frame is drawn along.</summary>
    private sealed class Around
    {
        // Directions are taken over this length, mm.
        private const double Reach = 0.6;
        private readonly MeasuredLine _measured;

        public Around(IReadOnlyList<Point> line, bool closed) => (Line, Closed, _measured) = (line, closed, new(closed ? [.. line, line[0]] : [.. line]));

        public IReadOnlyList<Point> Line { get; }

        public bool Closed { get; }

        public MotifCounts? Counts { get; init; }

        public double Length => _measured.Length;

        /// <summary>The line as a way from its beginning nearly back to it.</summary>
        public ShapePath Way => ShapePath.Through(_measured.Between(0, Closed ? Length - 0.01 : Length), closed: false);

        /// <summary>The same line farther out.</summary>
        public Around Outside(double distance) => new(Closed ? RingAround.Of(Line, distance) : Polylines.Offset(Line, _ => distance), Closed) { Counts = Counts };

        public Place At(double part, int number = 0, double pitch = 0)
        {
            var at = Wrapped(part * Length);
            return new(number, _measured.PointAt(at), (_measured.PointAt(Wrapped(at + Reach)) - _measured.PointAt(Wrapped(at - Reach))).Unit(), pitch);
        }

        /// <summary>What stands at places all equally far apart, a number of times that can be divided.</summary>
        public IEnumerable<DrawnShape> Each(double pitch, int dividedBy, Func<Place, IEnumerable<DrawnShape>> draw)
        {
            var count = CountOf(pitch, dividedBy);
            return Enumerable.Range(0, count).SelectMany(i => draw(At((i + (Closed ? 0 : 0.5)) / count, i, Length / count)));
        }

        /// <summary>Arcs that bulge outwards from place to place.</summary>
        public Around Scallops(double pitch, double bulge)
        {
            var count = CountOf(pitch, 1);
            return new(
            [
                .. Enumerable.Range(0, count).SelectMany(i => Enumerable.Range(0, 12).Select(k =>
                {
                    var place = At((i + (k / 12.0)) / count);
                    return place.At + (place.Outward * (bulge * Math.Sqrt(Math.Max(0, 1 - Math.Pow((2 * k / 12.0) - 1, 2)))));
                })),
                .. Closed ? Array.Empty<Point>() : [Line[^1]],
            ], Closed);
        }

        /// <summary>Something drawn, again and again; lines that go on into each other bend with the line.</summary>
        /// <exception cref="EditRefusedException">There would be too much of it.</exception>
        public ImmutableArray<ShapePath> Repeated(OwnMotif motif)
        {
            var (count, lines) = (CountOf(motif.PitchMm, 1), motif.Lines);
            if ((long)count * lines.Sum(l => l.Points.Count) > OwnMotif.MostPoints) throw new EditRefusedException($"“{motif.Name}” would have to be drawn {count:N0} times there, more than can be sewn. Draw it larger or simpler.");
            if (!motif.GoesOn) return [.. Each(motif.PitchMm, 1, p => [new([.. lines.Select(l => ShapePath.Through(l.Points.Select(p.OnLine), l.Closed))])]).SelectMany(s => s.Paths)];

            // Where one ends the next begins, so that place is drawn once.
            var along = Enumerable.Range(0, count).SelectMany(i => lines[0].Points.Take(lines[0].Points.Count - (Closed || i < count - 1 ? 1 : 0)).Select(p => At((i + p.X) / count) is var place ? place.At - (place.Outward * p.Y) : default));
            return [ShapePath.Through(along, Closed)];
        }

        /// <summary>How many motifs the next row has, where so many come nearest to their usual distance.</summary>
        public int Count(int nearest, int step) => Counts?.Of(nearest, step) ?? nearest;

        /// <summary>A length near to another by which the line is divided into as many motifs as it has; as wanted where numbers are not held.</summary>
        public double Dividing(double length) =>
            Counts is null ? length : Math.Round(Length / Count(Math.Max(1, (int)Math.Round(Length / length)), 1), 4);

        private int CountOf(double pitch, int dividedBy) => Count(Math.Max(dividedBy * (Closed ? 3 : 1), dividedBy * (int)Math.Round(Length / pitch / dividedBy)), dividedBy);

        private double Wrapped(double at) => Closed ? at - (Length * Math.Floor(at / Length)) : Math.Clamp(at, 0, Length);
    }
}
