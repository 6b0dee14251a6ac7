using EvenThimble.Core.Geometry;
using EvenThimble.Core.Text;

namespace EvenThimble.Core.LetterSets;

/// <summary>
/// Finds where letters stand that came each as a file of its own. Sets differ: in some the origin of every file lies on the baseline, in others every letter lies about its own middle, and in each of them
/// single letters may be off. Where most letters agree on a baseline, it is believed, and what stands elsewhere than it should is put on it; where they don't, every letter is put where its form
/// belongs: capitals and digits on their feet, descenders by their heads, what is round a little below and above, signs where a writer has them.
/// </summary>
internal sealed class BaselineFinder
{
    // What is that much higher than a flat letter is round, or reaches farther on purpose, in heights of a flat letter.
    private const double MostOvershoot = 0.08;

    // Letters stand on one line that agree within this, in heights of a capital.
    private const double Agreeing = 0.02;
    private const double LeastAgreeing = 0.6;
    private const double LeastOnLine = 0.4;

    // A letter is off the line from here on: in heights of a capital, and mm.
    private const double Off = 0.03;
    private const double OffMm = 0.25;

    // Small letters are this high where a set has none, in heights of a capital; and capitals, where it has none, in heights of small letters.
    private const double UsualSmall = 0.7;
    private const double UsualDescent = 0.3;
    private const double CentredWithin = 0.01;

    private const string FlatCapitals = "BDEHIKMNXZFTLPRAVWY";
    private const string FlatSmall = "xzvw";
    private const string NearlyFlatSmall = "nmru";
    private const string Digits = "0123456789";

    // How much of what a letter is higher than a flat one lies below the baseline.
    private const string RoundBelow = "JUL5u";
    private const string RoundAbove = "AFTPR247fnmrhk";
    private const string BothEnds = "BCDEGOSZMNXHIKQ&36890acegosxzi";

    // A descender reaches no farther below than the others do, but for this part of a small letter: else its head tells nothing, as that of a g with an ear.
    private const double LikeOthers = 0.12;
    private const double MostCentred = 0.8;
    private readonly IReadOnlyList<(string Character, Box Box)> _letters;
    private readonly Dictionary<string, Box> _boxes = new(StringComparer.Ordinal);
    private readonly HashSet<string> _roundFeet;
    private readonly double _roundCapital;
    private readonly double _roundSmall;
    private readonly double? _smallFound;

    private BaselineFinder(IReadOnlyList<(string Character, LetterInk Ink)> letters)
    {
        _letters = [.. letters.Select(l => (l.Character, l.Ink.Box))];
        _roundFeet = [.. letters.Where(l => l.Ink.HasRoundFoot).Select(l => l.Character)];
        foreach (var (character, box) in _letters) _boxes.TryAdd(character, box);
        _smallFound = MedianHeight(FlatSmall) ?? MedianHeight(NearlyFlatSmall) ?? MedianHeight("aceos");
        CapitalMm = MedianHeight(FlatCapitals) ?? MedianHeight("CGJOQSU") ?? MedianHeight("bdhkl") ?? MedianHeight(Digits) ?? _smallFound / UsualSmall ?? _letters.Max(l => l.Box.Height);
        SmallMm = _smallFound ?? CapitalMm * UsualSmall;
        _roundCapital = Overshoot("O", CapitalMm) ?? Overshoot("C", CapitalMm) ?? 0;
        _roundSmall = Overshoot("o", SmallMm) ?? Overshoot("e", SmallMm) ?? 0;
    }

    /// <summary>Height of flat capitals, mm.</summary>
    public double CapitalMm { get; }

    /// <summary>Height of flat small letters, mm.</summary>
    public double SmallMm { get; }

    /// <summary>Whether its files have a line that letters stand on.</summary>
    public bool HasLine { get; private set; }

    /// <summary>Whether the set has small letters.</summary>
    public bool HasSmall => _smallFound is not null;

    /// <summary>A letter's baseline in its file, and how far from that of the others the file had it (downwards, 0: where it should be).</summary>
    public readonly record struct Found(double BaselineY, double OffMm);

    /// <summary>The baselines of letters, in their order.</summary>
    /// <param name="letters">Each with what its stitches cover in its file.</param>
    public static (BaselineFinder Finder, IReadOnlyList<Found> Baselines) Of(IReadOnlyList<(string Character, LetterInk Ink)> letters)
    {
        var finder = new BaselineFinder(letters);
        return (finder, finder.Find());
    }

    private List<Found> Find()
    {
        var byForm = _letters.Select(l => ByForm(l.Character, l.Box)).ToList();
        var middle = Median(_letters.Select(l => l.Box.Middle.Y));
        bool Centred(Box box) => Math.Abs(box.Middle.Y - middle) < CentredWithin * CapitalMm;
        var line = Common(byForm);

        // Letters that each lie about their own middle stand on no line of the files'; only what does not is off.
        if (line is not { } common || _letters.Count(l => Centred(l.Box)) >= MostCentred * _letters.Count)
            return [.. _letters.Zip(byForm, (l, form) => new Found(form.Y, line is { } at && !Centred(l.Box) && form.Sure && IsOff(form.Y - at) ? form.Y - at : 0))];
        HasLine = true;
        var unlike = _letters.Zip(byForm, (l, form) => (Kind: KindOf(l.Character), form.Y, form.Sure)).Where(l => l.Sure).GroupBy(l => l.Kind)
            .Where(g => g.Count(l => !IsOff(l.Y - common)) < LeastAgreeing * g.Count()).Select(g => g.Key).ToHashSet();
        return [.. _letters.Zip(byForm, (letter, form) =>
        {
            // What its form tells little of stands where the others do, and so do letters that as a kind look otherwise than usual ones, as decorated capitals.
            var off = form.Y - common;
            return !IsOff(off) || !form.Sure || unlike.Contains(KindOf(letter.Character)) ? new Found(common, 0) : new Found(form.Y, off);
        })];
    }

    private bool IsOff(double mm) => Math.Abs(mm) > Math.Max(Off * CapitalMm, OffMm);

    private static int KindOf(string character) => char.IsUpper(character, 0) ? 0 : char.IsLower(character, 0) ? 1 : 2;

    /// <summary>The line that more letters stand on by their forms than on any other; null: there are not many on any.</summary>
    private double? Common(List<(double Y, bool Sure)> byForm)
    {
        var lines = byForm.Where(f => f.Sure).Select(f => f.Y).Order().ToList();
        var within = 2 * Math.Max(Agreeing * CapitalMm, OffMm);
        var most = lines.Select((y, i) => lines.Skip(i).TakeWhile(o => o - y <= within).ToList()).MaxBy(l => l.Count);
        return most is { Count: > 1 } && most.Count >= LeastOnLine * lines.Count ? Median(most) : null;
    }

    /// <summary>Where a letter's form puts its baseline, and whether that is sure.</summary>
    private (double Y, bool Sure) ByForm(string character, Box box)
    {
        var (letter, mark) = MarkedLetters.Apart(character);
        if (mark is not null)
        {
            // A mark above changes nothing below, one below nothing above.
            if (mark is '\u0327' or '\u0328' or '\u0326') return _boxes.TryGetValue(letter.ToString(), out var unmarked) ? (box.MinY + (ByForm(letter.ToString(), unmarked).Y - unmarked.MinY), false) : (box.MinY + (char.IsUpper(letter) ? CapitalMm : SmallMm), false);
            return _boxes.TryGetValue(letter.ToString(), out var plain) ? (box.MaxY - (plain.MaxY - ByForm(letter.ToString(), plain).Y), false) : (box.MaxY, false);
        }

        if (char.IsAsciiLetterUpper(letter) || char.IsAsciiDigit(letter)) return OfHeight(letter, box, CapitalMm, _roundCapital);
        return letter switch
        {
            'b' or 'd' or 'h' or 'k' or 'l' => Ascender(letter, box),
            'f' or 'i' => (box.MaxY, letter == 'i'),

            // Some have a round foot, some a flat one.
            't' => (box.MaxY - (_roundFeet.Contains(character) ? _roundSmall : 0), false),
            'p' or 'q' => (box.MinY + ArchMm, HasSmall),
            'y' => (box.MinY + SmallMm, HasSmall),
            'g' => (box.MinY + ArchMm is var y && Descent() is { } usual && Math.Abs(box.MaxY - y - usual) > LikeOthers * SmallMm ? box.MaxY - usual - _roundSmall : y, false),
            'j' => (_boxes.TryGetValue("i", out var dotted) ? box.MinY + dotted.Height : Descent() is { } below ? box.MaxY - below : box.MaxY - (UsualDescent * CapitalMm), false),
            >= 'a' and <= 'z' => OfHeight(letter, box, SmallMm, _roundSmall),
            _ => Sign(letter, box),
        };
    }

    /// <summary>A letter about as high as a flat one stands on its feet, what is round a little below them; what is much higher has its head where the others have it.</summary>
    private (double Y, bool Sure) OfHeight(char letter, Box box, double height, double round)
    {
        var more = box.Height - height;
        if (more > MostOvershoot * height && letter is 'Q' or 'J') return (box.MinY + height + (letter == 'Q' ? round : 0), true);
        if (Math.Abs(more) > MostOvershoot * height) return (box.MaxY, false);
        var below = RoundBelow.Contains(letter) ? 1 : RoundAbove.Contains(letter) ? 0 : BothEnds.Contains(letter) ? 0.5 : more > 0 && "vwVW".Contains(letter) ? 0.75 : 0.5;
        return (box.MaxY - (more * below), true);
    }

    private (double Y, bool Sure) Ascender(char letter, Box box)
    {
        var flat = MedianHeight("hkl") ?? box.Height;
        var more = box.Height - flat;
        return Math.Abs(more) > MostOvershoot * flat ? (box.MaxY, false) : (box.MaxY - (letter is 'b' or 'd' ? Math.Max(more, 0) : more / 2), letter is not 'd');
    }

    private (double Y, bool Sure) Sign(char sign, Box box) => sign switch
    {
        ',' => (box.MinY + (_boxes.TryGetValue(".", out var dot) ? dot.Height : box.Height), false),
        ';' => (box.MinY + (_boxes.TryGetValue(":", out var colon) ? colon.Height : SmallMm), false),
        '-' or '–' or '—' or '~' => (box.Middle.Y + ((HasSmall ? SmallMm : CapitalMm) / 2), false),
        '\'' or '"' or '’' or '‘' or '“' or '”' or '*' or '°' or '^' or '`' => (box.MinY + CapitalMm, false),
        '_' => (box.MinY, false),
        '.' or ':' or '!' or '?' or '…' => (box.MaxY, false),
        '&' => OfHeight('&', box, CapitalMm, _roundCapital),
        _ => (box.Middle.Y + (CapitalMm / 2), false),
    };

    /// <summary>How high the arches of small letters are, as of n and p, mm.</summary>
    private double ArchMm => MedianHeight("nmr") ?? SmallMm + _roundSmall;

    /// <summary>How far descenders reach below the baseline, mm; null: the set has none.</summary>
    private double? Descent()
    {
        var below = "pqy".Select(c => c.ToString()).Where(_boxes.ContainsKey).Select(c => _boxes[c].MaxY - ByForm(c, _boxes[c]).Y).ToList();
        return below.Count > 0 ? Median(below) : null;
    }

    private double? Overshoot(string round, double flat) => _boxes.TryGetValue(round, out var box) && box.Height - flat is var more && Math.Abs(more) <= MostOvershoot * flat ? Math.Max(more / 2, 0) : null;

    private double? MedianHeight(string characters) =>
        _letters.Where(l => l.Character.Length == 1 && characters.Contains(l.Character[0])).Select(l => l.Box.Height).ToList() is { Count: > 0 } heights ? Median(heights) : null;

    private static double Median(IEnumerable<double> values)
    {
        var sorted = values.Order().ToList();
        return (sorted[(sorted.Count - 1) / 2] + sorted[sorted.Count / 2]) / 2;
    }
}
