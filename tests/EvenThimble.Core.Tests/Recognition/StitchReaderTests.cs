using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Digitizing.Satin;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests.Quality;
using Shouldly;
using Xunit;

namespace EvenThimble.Core.Tests.Recognition;

public class StitchReaderTests
{
    /// <summary>Stitches whose making is known: for each record the kind that it is of, ties and ways left open.</summary>
    private sealed class Known
    {
        private readonly StitchBuilder _builder = new();
        private readonly List<PassageKind?> _kinds = [];

        public void Sew(List<Point> run, PassageKind kind)
        {
            if (run.Count < 4) return;
            _builder.Jump(run[0]);
            _kinds.Add(null);
            foreach (var p in run)
            {
                _builder.Stitch(p);
                _kinds.Add(kind);
            }

            _builder.Trim();
            _kinds.Add(null);
        }

        /// <summary>Part of all stitches that are read as what they are.</summary>
        public double Right(Func<StitchBlob, (StitchBlob Blob, List<int> From)>? damage = null)
        {
            var (blob, from) = damage?.Invoke(_builder.ToBlob()) ?? (_builder.ToBlob(), [.. Enumerable.Range(0, _kinds.Count)]);
            var read = new PassageKind?[blob.Count];
            foreach (var p in StitchReader.Read(blob))
                for (var i = p.First + 1; i <= p.Last; i++)
                    read[i] = p.Kind;
            var (right, all) = (0, 0);
            for (var i = 1; i < blob.Count; i++)
            {
                if (blob.Kinds[i] != StitchKind.Stitch || blob.Kinds[i - 1] != StitchKind.Stitch) continue;
                all++;
                if (read[i] == _kinds[from[i]]) right++;
            }

            return right / (double)all;
        }
    }

    /// <summary>Lines, satins and fills over many shapes; letters are sewn as satin from their outlines.</summary>
    private static Known Many()
    {
        var known = new Known();
        var random = new Random(5);
        for (var i = 0; i < 14; i++)
        {
            double At() => random.NextDouble() * 120;
            var (x, y, size) = (At(), At(), 8 + (random.NextDouble() * 30));
            known.Sew(FillSewing.Sew(Area.Of([Blob(random, new(x, y), size)])[0], new RowFill(random.Next(180)) { CompensationMm = 0.2, SpacingMm = 0.35 + (random.NextDouble() * 0.15) }, []), PassageKind.Fill);
            var middle = Outlines.Smooth(new(At(), At()), new(At(), At()), new(At(), At()), new(At(), At()));
            var width = 1.5 + (random.NextDouble() * 4.5);
            known.Sew(SatinRails.Throws(Polylines.Offset(middle, t => width * (0.3 + t) / 2), Polylines.Offset(middle, t => -width * (0.3 + t) / 2), new(0.35 + (random.NextDouble() * 0.2), 0.15)), PassageKind.Satin);
            known.Sew(RunLine.Along(Outlines.Smooth(new(At(), At()), new(At(), At()), new(At(), At())), 2 + random.NextDouble()), PassageKind.Run);
            known.Sew(RunLine.Tripled(RunLine.Along(Outlines.Smooth(new(At(), At()), new(At(), At()), new(At(), At())))), PassageKind.TripleRun);
        }

        return known;
    }

    private static Point[] Blob(Random random, Point middle, double size)
    {
        var (a, b) = (random.NextDouble() * 6, random.NextDouble() * 6);
        return [.. Enumerable.Range(0, 72).Select(i => i * Math.PI / 36).Select(t => middle + (new Point(Math.Cos(t), Math.Sin(t)) * (size * (1 + (0.25 * Math.Sin((2 * t) + a)) + (0.12 * Math.Sin((5 * t) + b))))))];
    }

    [Fact]
    public void Stitches_are_read_as_what_they_were_made() => Many().Right().ShouldBeGreaterThan(0.95);

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void Stitches_moved_by_a_tenth_with_every_fiftieth_lost_are_still_read(int seed) => Many().Right(blob =>
    {
        var random = new Random(seed);
        var (builder, from) = (new StitchBuilder(), new List<int>());
        for (var i = 0; i < blob.Count; i++)
        {
            if (blob.Kinds[i] == StitchKind.Stitch && i % 50 == 49) continue;
            var angle = random.NextDouble() * 2 * Math.PI;
            builder.Add(blob.Kinds[i], blob.At(i) + (new Point(Math.Cos(angle), Math.Sin(angle)) * 0.1));
            from.Add(i);
        }

        return (builder.ToBlob(), from);
    }).ShouldBeGreaterThan(0.90);

    [Fact]
    public void Letters_sewn_in_satin_are_read_as_satin()
    {
        var shapes = QualityShapes.All.Where(s => s.Key.Contains("20 mm", StringComparison.Ordinal)).Take(20).ToList();
        shapes.Count.ShouldBeGreaterThan(8);
        var (satin, all) = (0, 0);
        foreach (var shape in shapes)
        {
            foreach (var area in Area.Of(shape.Value))
            {
                var builder = new StitchBuilder();
                Ties.Add(builder, SatinSewing.Sew(area, new()));
                foreach (var p in StitchReader.Read(builder.ToBlob()).Where(p => p.Kind != PassageKind.Tie && !p.IsUnder))
                {
                    all += p.Stitches;
                    if (p.Kind == PassageKind.Satin) satin += p.Stitches;
                }
            }
        }

        (satin / (double)all).ShouldBeGreaterThan(0.9);
    }

    [Fact]
    public void Underlay_and_ties_are_told_from_what_is_seen()
    {
        var builder = new StitchBuilder();
        Ties.Add(builder, FillSewing.Sew(Area.Of([Outlines.Circle(Point.Zero, 15)])[0], new RowFill(30), [Underlay.Edge, Underlay.Light]));
        var read = ReadStitches.Of(builder.ToBlob());
        read.Kind.ShouldBe(PassageKind.Fill);
        read.SpacingMm.ShouldBe(0.4, 0.02);
        read.Confidence.ShouldBeGreaterThan(0.85);
        read.Under.ShouldBeInRange(60, 400);
        read.Passages[0].Kind.ShouldBe(PassageKind.Tie);
        read.Passages[^1].Kind.ShouldBe(PassageKind.Tie);
        read.Passages.ShouldContain(p => p.IsUnder && p.Kind == PassageKind.Fill && p.SpacingMm > 2);
    }

    [Fact]
    public void Passages_follow_each_other_without_gap_or_overlap()
    {
        foreach (var seed in Enumerable.Range(0, 200))
        {
            var blob = MadeUp.File(seed, parts: 3, recordsPerPart: 150, reach: 10).Stitches;
            var last = -1;
            foreach (var p in StitchReader.Read(blob))
            {
                p.Last.ShouldBeGreaterThan(p.First);
                p.First.ShouldBeGreaterThanOrEqualTo(last);
                for (var i = p.First; i <= p.Last; i++) blob.Kinds[i].ShouldBe(StitchKind.Stitch);
                p.Rungs.Where(r => r.First < p.First || r.Last > p.Last || r.Last <= r.First).ShouldBeEmpty();
                last = p.Last;
            }
        }
    }

    [Fact]
    public void Scribble_is_not_taken_for_more_than_it_is()
    {
        var random = new Random(3);
        var builder = new StitchBuilder();
        for (var i = 0; i < 400; i++) builder.Stitch(new(random.NextDouble() * 20, random.NextDouble() * 20));
        ReadStitches.Of(builder.ToBlob()).Confidence.ShouldBeLessThan(Passage.Sure + 0.1);
    }
}
