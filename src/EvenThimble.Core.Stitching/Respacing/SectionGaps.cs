using EvenThimble.Core.Geometry;
using EvenThimble.Core.Recognition;

namespace EvenThimble.Core.Respacing;

/// <summary>
/// How far the outermost rows of each section of a fill lie from those of the section beside it. Sections are sewn one after another, so that where they meet is told by nothing but their places: made
/// larger the gap between them would grow too, and show.
/// </summary>
internal sealed class SectionGaps
{
    /// <summary>Half of the gap outside a row beside which nothing lies, in distances of rows: the strip that it stands for.</summary>
    public const double HalfRow = 0.5;

    // Rows farther apart than this many times what is usual do not meet; nor do those that are not beside each other along so much of the outermost.
    private const double MeetsWithin = 2.5;
    private const double LeastBeside = 0.5;

    // Sections that lie over each other keep at least this part of a row between them.
    private const double LeastHalf = 0.25;

    // What is nearer is the row itself, or lies upon it.
    private const double Touches = 0.1;
    private const int Looks = 9;

    // So many rows on either side of a section are known, by places so far apart, mm: the outermost may be shorter than the next.
    private const int Outer = 3;
    private const double Fine = 0.5;

    private readonly Dictionary<Passage, (double Before, double After)> _halves = new(ReferenceEqualityComparer.Instance);
    private readonly Point[] _places;

    /// <summary>Measures the gaps between all sections of some stitches.</summary>
    public SectionGaps(ReadStitches read)
    {
        List<Passage> sections = [.. read.Passages.Where(p => p is { Kind: PassageKind.Fill, IsDense: true, IsUnder: false, Stepped: true, Rungs.Length: > 1 } && p.Confidence >= Passage.Sure)];
        Point[] Row(LadderRung rung) => [.. Enumerable.Range(rung.First, rung.Last - rung.First + 1).Select(read.Stitches.At)];
        _places = [.. sections.SelectMany(s => s.Rungs.Take(Outer).Concat(s.Rungs.Skip(Math.Max(Outer, s.Rungs.Length - Outer)))).Select(Row).SelectMany(r => Polylines.Divided(r, (int)Math.Ceiling((Polylines.Length(r) + Fine) / Fine)))];
        if (sections.Count == 0) return;
        var index = new CellIndex(_places, 0, _places.Length - 1, span: 0, MeetsWithin * sections.Max(s => s.SpacingMm));
        foreach (var section in sections)
            _halves[section] = (Half(index, Row(section.Rungs[0]), Row(section.Rungs[1]), section.SpacingMm), Half(index, Row(section.Rungs[^1]), Row(section.Rungs[^2]), section.SpacingMm));
    }

    /// <summary>Half of the gaps outside the first and the last row of a passage, in distances of its rows.</summary>
    public (double Before, double After) Halves(Passage passage) => _halves.GetValueOrDefault(passage, (HalfRow, HalfRow));

    /// <summary>Half of the gap outside an outermost row, in distances of rows.</summary>
    private double Half(CellIndex index, Point[] row, Point[] within, double spacing)
    {
        var gaps = new List<double>();
        var places = Polylines.Divided(row, Looks + 1);
        for (var k = 1; k < places.Length - 1; k++)
        {
            var way = (places[k + 1] - places[k - 1]).Unit();
            var outward = way.Normal() * Math.Sign(way.Normal().Dot(places[k] - within[0].Toward(within[^1], 0.5)));
            var nearest = double.PositiveInfinity;
            foreach (var i in index.Near(places[k]))
            {
                var gap = outward.Dot(_places[i] - places[k]);
                if (gap > Touches * spacing && Math.Abs(way.Dot(_places[i] - places[k])) < Fine) nearest = Math.Min(nearest, gap);
            }

            if (nearest <= MeetsWithin * spacing) gaps.Add(nearest);
        }

        // Where two sections meet one the farther one counts: rows that come closer at the other do less harm than a gap.
        gaps.Sort();
        return gaps.Count >= LeastBeside * Looks ? Math.Max(LeastHalf, gaps[gaps.Count * 7 / 8] / spacing / 2) : HalfRow;
    }
}
