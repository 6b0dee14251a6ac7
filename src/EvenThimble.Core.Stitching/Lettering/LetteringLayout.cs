using System.Globalization;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Text;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Lettering;

/// <summary>Lays a text in a font: always anew from the text, about the middle of the block (on a ring or path: where these lie).</summary>
public sealed class LetteringLayout
{
    // Bent outlines have no longer pieces than this part of a capital's height.
    private const double PieceOfCapital = 0.06;

    // Letters on the two sides of a ring stay this far apart, in heights of capitals.
    private const double RingGap = 0.5;
    private readonly LetteringWish _wish;
    private readonly ILetterFont _font;
    private readonly OpticalSpacing? _optical;
    private readonly List<string> _missing = [];

    private LetteringLayout(LetteringWish wish, ILetterFont font, OpticalSpacing? optical) => (_wish, _font, _optical) = (wish, font, wish.OpticalSpacing ? optical ?? new(font) : null);

    /// <summary>A letter of a line before that stands anywhere: how far from the line's beginning its origin lies and how wide its ink is, em.</summary>
    private sealed record Set(ShapedGlyph Glyph, double X, DrawnShape Outline, double InkLeft, double InkRight)
    {
        public double Middle => (InkLeft + InkRight) / 2;

        /// <summary>The same with all widths times as large.</summary>
        public Set Condensed(double times) =>
            new(Glyph with { Offset = new(Glyph.Offset.X * times, Glyph.Offset.Y) }, X * times, Outline.Moved(p => new(p.X * times, p.Y)), InkLeft * times, InkRight * times);
    }

    /// <summary>Letters of one line and the width of their ink, em.</summary>
    private sealed record Line(List<Set> Letters, double Left, double Right)
    {
        public double Width => Right - Left;
    }

    /// <summary>Lays a lettering.</summary>
    /// <param name="wish">What is wanted.</param>
    /// <param name="font">In which font.</param>
    /// <param name="optical">The font's optical spacing, where it is at hand; it remembers pairs.</param>
    /// <exception cref="EditRefusedException">There is nothing to lay, or it does not fit where it is wanted; a sentence.</exception>
    public static LaidLettering Of(LetteringWish wish, ILetterFont font, OpticalSpacing? optical = null) => new LetteringLayout(wish, font, optical).Lay();

    private LaidLettering Lay()
    {
        if (_wish.Text.Length > LetteringWish.MostCharacters)
            throw new EditRefusedException($"A lettering has at most {LetteringWish.MostCharacters.ToString("N0", CultureInfo.InvariantCulture)} characters; this text has {_wish.Text.Length.ToString("N0", CultureInfo.InvariantCulture)}. Divide it.");
        var lines = _wish.Lines.Select(SetLine).ToList();
        if (lines.TrueForAll(l => l.Letters.Count == 0))
        {
            throw new EditRefusedException(_missing.Count > 0
                ? $"{_font.Name} has none of these characters: {string.Join(' ', _missing)}. Choose another font."
                : "There is no text yet. Type some.");
        }

        if (_wish.Align == LetterAlign.Justified) lines = Justified(lines);
        var scale = _wish.CapitalMm / _font.CapitalEm;
        if ((_wish.WidthMm ?? _wish.HeightMm) is not null) scale = Fitted(lines, scale);
        if (scale * _font.CapitalEm is var capital && (capital < LetteringWish.Capitals.Least * 0.999 || capital > LetteringWish.Capitals.Most))
            throw new EditRefusedException($"Its capitals would be {LengthText.Decimals(capital, 1)} mm high; they can be from {LetteringWish.Capitals.Least:0} to {LetteringWish.Capitals.Most:0} mm.");

        // A letter that was set by hand moves no other, and the block is measured without it.
        var letters = Placed(lines, scale).OrderBy(l => l.Line).ThenBy(l => l.From);
        return new(_wish.Nudges.Count == 0 ? [.. letters] : [.. letters.Select(l => _wish.Nudges.At(_wish.PlaceOf(l)).Of(l, scale * _font.CapitalEm))], scale * _font.CapitalEm, [.. _missing]);
    }

    private List<PlacedLetter> Placed(List<Line> lines, double scale)
    {
        var letters = (_wish.Course, _wish.Stacked) switch
        {
            (LetterCourse.OnRing ring, _) => OnRing(lines, scale, ring),
            (LetterCourse.OnArc arc, _) => OnArc(lines, scale, arc),
            (LetterCourse.OnPath path, _) => OnPath(lines, scale, path),
            (_, true) => Stacked(lines, scale),
            _ => Straight(lines, scale),
        };
        if (_wish.Bend is { } bend) letters = Bent(letters, bend, scale);

        // A ring or a path lies where it is; all else about the middle of its ink.
        if (_wish.Course is LetterCourse.OnStraight or LetterCourse.OnArc && PlacedLetter.BoxOf(letters).Middle is var middle)
            letters = letters.ConvertAll(l => l with { Outline = l.Outline.Moved(p => p - middle), Baseline = l.Baseline - middle });
        return _wish.TurnDegrees == 0 ? letters : letters.ConvertAll(l => l.Turned(_wish.TurnDegrees, Point.Zero));
    }

    /// <summary>Shapes a line and sets its letters apart.</summary>
    private Line SetLine(string text)
    {
        var shaped = _font.Shape(text);
        foreach (var missing in shaped.Missing.Where(m => !_missing.Contains(m))) _missing.Add(missing);
        var (letters, pen, slant) = (new List<Set>(), 0.0, Math.Tan(_wish.SlantDegrees * Math.PI / 180));
        for (var i = 0; i < shaped.Glyphs.Count; i++)
        {
            WorkBudget.Current.Spend(20);
            var glyph = shaped.Glyphs[i];
            var outline = _font.Outline(glyph.Glyph);
            if (outline.Paths.Length > 0)
            {
                if (slant != 0) outline = outline.Moved(p => new(p.X - (p.Y * slant), p.Y));
                var box = outline.Bounds;
                letters.Add(new(glyph, pen, outline, pen + glyph.Offset.X + box.MinX, pen + glyph.Offset.X + box.MaxX));
            }

            var advance = glyph.AdvanceEm * (glyph.IsSpace ? _wish.WordSpacing : 1);
            if (i + 1 < shaped.Glyphs.Count && shaped.Glyphs[i + 1] is var next)
            {
                advance += KernEm(glyph, next, advance);
                advance += _wish.LetterSpacing * _font.CapitalEm;
            }

            pen += advance;
        }

        if (_wish.Condense != 1) letters = letters.ConvertAll(l => l.Condensed(_wish.Condense));
        return letters.Count == 0 ? new(letters, 0, 0) : new(letters, letters.Min(l => l.InkLeft), letters.Max(l => l.InkRight));
    }

    /// <summary>What kerning adds between two glyphs, em: what was set by hand counts first, then what the font says, then equal white.</summary>
    private double KernEm(ShapedGlyph glyph, ShapedGlyph next, double advanceEm)
    {
        if (_wish.OwnKerning && _wish.Pairs.Between(glyph.Text, next.Text) is { } share) return share * _font.CapitalEm;
        if (_wish.FontKerning && glyph.KernEm != 0) return glyph.KernEm;
        return glyph.IsSpace || next.IsSpace ? 0 : _optical?.Between(glyph.Glyph, next.Glyph, advanceEm) ?? 0;
    }

    /// <summary>What kerning adds between two letters as a lettering is wanted, in heights of a capital; null where the font does not write them side by side.</summary>
    public static double? KerningOf(LetteringWish wish, ILetterFont font, string left, string right, OpticalSpacing? optical = null)
    {
        var shaped = font.Shape(left + right);
        if (shaped.Missing.Count > 0 || shaped.Glyphs is not [var a, var b] || a.IsSpace || b.IsSpace) return null;
        return new LetteringLayout(wish, font, optical).KernEm(a, b, a.AdvanceEm) / font.CapitalEm;
    }

    /// <summary>Lines as wide as the widest: more room between words, or between letters where there are no words.</summary>
    private static List<Line> Justified(List<Line> lines)
    {
        var widest = lines.Max(l => l.Width);
        return lines.ConvertAll(line =>
        {
            var words = line.Letters.Zip(line.Letters.Skip(1)).Select(p => p.Second.Glyph.From > p.First.Glyph.From + p.First.Glyph.Text.Length).ToList();
            var gaps = words.Exists(w => w) ? words : words.ConvertAll(_ => true);
            if (gaps.Count == 0) return line;
            var (more, moved) = ((widest - line.Width) / gaps.Count(g => g), 0.0);
            var letters = line.Letters.Select((l, i) =>
            {
                if (i > 0 && gaps[i - 1]) moved += more;
                return l with { X = l.X + moved, InkLeft = l.InkLeft + moved, InkRight = l.InkRight + moved };
            }).ToList();
            return new Line(letters, line.Left, letters.Max(l => l.InkRight));
        });
    }

    /// <summary>The scale at which the block is exactly as wide, or as high, as wanted; what is bent or on an arc grows in proportion too.</summary>
    private double Fitted(List<Line> lines, double scale)
    {
        if (_wish.Course is LetterCourse.OnRing or LetterCourse.OnPath) throw new EditRefusedException("On a ring or a path the height of the letters is set, not the size of the block.");
        var upright = PlacedLetter.BoxOf(Placed(lines, scale).Select(l => l.Turned(-_wish.TurnDegrees, Point.Zero)));
        var (wanted, now) = _wish.WidthMm is { } width ? (width, upright.Width) : (_wish.HeightMm!.Value, upright.Height);
        if (now <= 0) throw new EditRefusedException("The text has no width. Type some.");
        return scale * wanted / now;
    }

    private static PlacedLetter Place(Set letter, int line, double scale, Point origin, double turn)
    {
        var offset = letter.Glyph.Offset;
        return new(letter.Glyph.Text, line, letter.Glyph.From, letter.Outline.Moved(p => (((p + offset) * scale) + origin).Turned(turn, origin)), origin, turn);
    }

    private double LineHeight(double scale) => _font.LineEm * _wish.LineSpacing * scale;

    /// <summary>How far the first of some baselines lies below the middle of the block, mm.</summary>
    private double FirstBaseline(int lines, double scale) => ((_font.CapitalEm * scale) - ((lines - 1) * LineHeight(scale))) / 2;

    private double Aligned(Line line, double widest) => _wish.Align switch
    {
        LetterAlign.Left or LetterAlign.Justified => -widest / 2,
        LetterAlign.Right => (widest / 2) - line.Width,
        _ => -line.Width / 2,
    };

    private List<PlacedLetter> Straight(List<Line> lines, double scale)
    {
        var (widest, first) = (lines.Max(l => l.Width), FirstBaseline(lines.Count, scale));
        return [.. lines.SelectMany((line, i) => line.Letters.Select(l =>
            Place(l, i, scale, new((Aligned(line, widest) + l.X - line.Left) * scale, first + (i * LineHeight(scale))), 0)))];
    }

    /// <summary>Letters below each other, their middles on one line; several lines stand beside each other.</summary>
    private List<PlacedLetter> Stacked(List<Line> lines, double scale)
    {
        var step = (_font.CapitalEm * scale * 1.25 * _wish.LineSpacing) + (_wish.LetterSpacing * _font.CapitalEm * scale);
        var column = lines.Max(l => l.Letters.Count == 0 ? 0 : l.Letters.Max(s => s.InkRight - s.InkLeft)) * scale * 1.3;
        var longest = lines.Max(l => l.Letters.Count);
        return [.. lines.SelectMany((line, i) => line.Letters.Select((l, k) => Place(
            l, i, scale, new(((i - ((lines.Count - 1) / 2.0)) * column) - ((l.Middle - l.X) * scale), (_font.CapitalEm * scale / 2) + ((k - ((longest - 1) / 2.0)) * step)), 0)))];
    }

    private List<PlacedLetter> OnArc(List<Line> lines, double scale, LetterCourse.OnArc arc)
    {
        if (Math.Abs(arc.Degrees) < 0.5) return Straight(lines, scale);
        if (Math.Abs(arc.Degrees) > 350) throw new EditRefusedException("An arc goes over at most 350 degrees. For all around, choose a ring.");
        var widest = lines.Max(l => l.Width);
        var (radius, first) = (widest * scale / (arc.Degrees * Math.PI / 180), FirstBaseline(lines.Count, scale));
        var letters = new List<PlacedLetter>();
        for (var i = 0; i < lines.Count; i++)
        {
            // Above 0 the centre lies below, and lower lines lie nearer to it; below 0 the other way round.
            var (baseline, centre) = (first + (i * LineHeight(scale)), new Point(0, first + radius));
            var own = centre.Y - baseline;
            if (Math.Sign(own) != Math.Sign(radius) || Math.Abs(own) < 0.1 * _font.CapitalEm * scale) throw new EditRefusedException("The arc is too tight for so many lines. Take fewer degrees, or fewer lines.");
            foreach (var l in lines[i].Letters)
            {
                var along = (Aligned(lines[i], widest) + l.Middle - lines[i].Left) * scale;
                letters.Add(Place(l, i, scale, new(-(l.Middle - l.X) * scale, baseline), 0).Turned(along / radius * 180 / Math.PI, centre));
            }
        }

        return letters;
    }

    private List<PlacedLetter> OnRing(List<Line> lines, double scale, LetterCourse.OnRing ring)
    {
        if (lines.Count > 2) throw new EditRefusedException($"A ring holds two lines, one above and one below; this text has {lines.Count}.");
        var (outer, capital) = (ring.DiameterMm / 2, _font.CapitalEm * scale);
        var inner = outer - capital;

        // What is narrowest decides: above the feet of the letters, below their heads.
        var needed = lines.Sum(l => l.Width * scale) + (lines.Count(l => l.Letters.Count > 0) * RingGap * capital);
        if (inner <= 0 || needed > 2 * Math.PI * inner)
            throw new EditRefusedException($"The text is too long for this ring. It needs a diameter of {LengthText.Decimals(Math.Ceiling(((needed / Math.PI) + (2 * capital)) * 10) / 10, 1)} mm, or smaller letters.");
        return [.. lines.SelectMany((line, i) => line.Letters.Select(l => Around(line, i, l)))];

        PlacedLetter Around(Line line, int number, Set letter)
        {
            // Read from within, each line is the other one's, half a turn on.
            var (outwards, along) = ((number == 0) != ring.Inward, (letter.Middle - line.Left - (line.Width / 2)) * scale);
            var turn = (along / inner * 180 / Math.PI * (outwards ? 1 : -1)) + ring.StartDegrees + (ring.Inward ? 180 : 0);
            return Place(letter, number, scale, new(-(letter.Middle - letter.X) * scale, outwards ? -inner : outer), 0).Turned(turn, Point.Zero);
        }
    }

    private List<PlacedLetter> OnPath(List<Line> lines, double scale, LetterCourse.OnPath path)
    {
        if (lines.Count > 1) throw new EditRefusedException("A guide path carries one line of text. Put the others on paths of their own.");
        var (line, points) = (lines[0], path.Path.Where((p, i) => i == 0 || p.DistanceTo(path.Path[i - 1]) > 1e-6).ToArray());
        if (points.Length < 2) throw new EditRefusedException("The guide path has no length. Draw a longer one.");
        var guide = new MeasuredLine(points);
        var room = guide.Length - (line.Width * scale);
        if (room < -1e-6) throw new EditRefusedException($"The text is {LengthText.Decimals(line.Width * scale, 1)} mm long and the guide path {LengthText.Decimals(guide.Length, 1)} mm. Take smaller letters, or a longer path.");
        var start = _wish.Align switch { LetterAlign.Left or LetterAlign.Justified => 0, LetterAlign.Right => room, _ => room / 2 };
        return [.. line.Letters.Select(l =>
        {
            // A letter stands on the chord under its own ink, so that it is steady on a rough path.
            var (from, to) = (start + ((l.InkLeft - line.Left) * scale), start + ((l.InkRight - line.Left) * scale));
            var (a, b) = (guide.PointAt(from), guide.PointAt(Math.Max(to, from + 1e-3)));
            var turn = Math.Atan2(b.Y - a.Y, b.X - a.X) * 180 / Math.PI;
            var origin = a.Toward(b, 0.5) - new Point((l.Middle - l.X) * scale, 0).Turned(turn, Point.Zero);
            return Place(l, 0, scale, origin, turn);
        })];
    }

    private List<PlacedLetter> Bent(List<PlacedLetter> letters, LetterBend bend, double scale)
    {
        var (block, piece) = (PlacedLetter.BoxOf(letters), Math.Max(PieceOfCapital * _font.CapitalEm * scale, 0.1));
        return letters.ConvertAll(l => l with
        {
            Outline = l.Outline with { Paths = [.. l.Outline.Paths.Select(p => ShapePath.Through(Polylines.InPieces(p.Flattened(), p.Closed, piece).Select(q => bend.Bent(q, block)), p.Closed))] },
            Baseline = bend.Bent(l.Baseline, block),
        });
    }
}
