using EvenThimble.Core.Craft;
using EvenThimble.Core.Digitizing.Fill;
using EvenThimble.Core.Digitizing.Lines;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.LetterSets;
using EvenThimble.Core.Names;
using EvenThimble.Core.Shapes;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Jobs;

/// <summary>What every job must be, wherever it comes from: a form, an archive, the database. Each refusal is one sentence.</summary>
public static class JobRules
{
    /// <summary>Notes are no longer than this.</summary>
    public const int LongestNotes = 2_000;

    /// <summary>What a machine shows when it stops has at most so many bytes.</summary>
    public const int LongestStopMessage = 120;

    private const int MostSpots = 60;
    private const int MostCutLines = 5_000;
    private const int MostLaid = 20_000;
    private const int MostLines = 40;
    private const double FarthestOffMm = 20;
    private const double MostTurned = 10;
    private const int LongestKey = 40;
    private const double FarthestMm = 20_000;
    private const double SmallestSize = 0.002;
    private const double LargestSize = 200;
    private const double ThinnestCloth = 0.05;
    private const double ThickestCloth = 10;

    /// <summary>The job with all that people read in it made clean. What follows refuses what cannot be cleaned.</summary>
    public static Job Cleaned(Job job)
    {
        var title = Titles.Clean(job.Title);
        return job with
        {
            Title = title.Length == 0 ? "Untitled" : title,
            Notes = Titles.CleanLines(job.Notes, LongestNotes, MostLines),
            Pieces = [.. job.Pieces.Select(p => Titles.Clean(p.Name) is var name && name == p.Name ? p : p with { Name = name })],
            Order = job.Order.Any(p => p.OwnName is { } name && name != Titles.Clean(name)) ? new([.. job.Order.Select(p => p with { Name = Titles.Clean(p.Name) })]) : job.Order,
            Cloth = ClothProfiles.Find(job.Cloth.Profile.Id) == job.Cloth.Profile ? job.Cloth : job.Cloth with { Profile = Cleaned(job.Cloth.Profile) },
        };
    }

    /// <summary>Notes of any number of lines, each made clean.</summary>
    public static string CleanNotes(string? notes) => Titles.CleanLines(notes, LongestNotes + 1, MostLines);

    private static ClothProfile Cleaned(ClothProfile profile) => profile with
    {
        Name = Titles.Clean(profile.Name),
        Stabilizer = Titles.Clean(profile.Stabilizer),
        Needle = Titles.Clean(profile.Needle),
        Topping = Titles.Clean(profile.Topping),
        Advice = Titles.Clean(profile.Advice),
    };

    /// <summary>Refuses a job that cannot be.</summary>
    /// <exception cref="EditRefusedException">With what is wrong, in a sentence.</exception>
    public static void Check(Job job)
    {
        Must(job.Title == Titles.Clean(job.Title) && job.Title.Length > 0, "The title has characters in it that no title can have.");
        Must(job.ShortTitle is not { } plain || (plain.Length is > 0 and <= Titles.ShortLength && Titles.IsPlain(plain)), $"A short name has 1 to {Titles.ShortLength} plain letters.");
        Must(job.Copies is >= 1 and <= Job.MostCopies, $"A job is sewn 1 to {Job.MostCopies:N0} times.");
        Must(job.Hoopings.Length is > 0 and <= Job.MostHoopings, $"A job is sewn in 1 to {Job.MostHoopings} hoopings; this one in {job.Hoopings.Length:N0}.");
        Must(job.Hoopings.All(h => IsKey(h.Hoop.MachineId) && IsKey(h.Hoop.HoopId)), "The job names a machine or hoop that cannot be.");
        Must(job.Hoopings.All(h => IsPlace(h.Centre) && h.Position is null or (>= 1 and <= Job.MostHoopings)), "The job has a hooping that lies nowhere.");
        Must(job.Hoopings.All(h => Math.Abs(h.Measured.Dx) <= FarthestOffMm && Math.Abs(h.Measured.Dy) <= FarthestOffMm && Math.Abs(h.Measured.TurnDegrees) <= MostTurned), $"A hooping can have landed up to {FarthestOffMm} mm off and {MostTurned}° turned; what is more is hooped anew.");
        Must(job.Split.Seams.Length <= Job.MostHoopings * Job.MostHoopings && job.Split.Seams.All(s => s.First >= 0 && s.First < s.Second && s.Second < job.Hoopings.Length && s.Line.Length is >= 2 and <= MostSpots && s.Line.All(IsPlace) && s.Line[0].DistanceTo(s.Line[^1]) > 0.1), "The job has a seam that cannot be.");
        Must(job.Split.Given.Length <= Job.MostParts && job.Split.Given.All(g => g.Hooping >= 0 && g.Hooping < job.Hoopings.Length) && job.Split.Given.DistinctBy(g => g.Part).Count() == job.Split.Given.Length, "The job gives a part to a hooping that it does not have, or to two.");
        Must(job.Crosses is not { } crosses || (crosses.Spots.Length <= MostSpots && crosses.Spots.All(IsPlace)), $"A job can have {MostSpots} crosses, each on the cloth.");
        Must(Enum.IsDefined(job.Holding.Basting) && Enum.IsDefined(job.Holding.Start) && Enum.IsDefined(job.Holding.End), "The job is held in a way that is not known.");
        Must(job.Notes.Length <= LongestNotes && job.Notes == CleanNotes(job.Notes), $"Notes have up to {LongestNotes:N0} characters.");
        Must(job.Order.Count <= Job.MostParts, $"A job can have {Job.MostParts:N0} parts; this one has {job.Order.Count:N0}.");
        Must(job.Pieces.Length <= Job.MostParts, $"A job can have {Job.MostParts:N0} pieces; this one has {job.Pieces.Length:N0}.");
        Must(job.Order.All(p => p.Id.Value > 0 && p.Id.Value < job.NextPart) && job.Order.Select(p => p.Id).Distinct().Count() == job.Order.Count, "The job has parts with numbers that cannot be.");
        Must(job.Pieces.All(p => p.Id.Value > 0 && p.Id.Value < job.NextPiece) && job.Pieces.Select(p => p.Id).Distinct().Count() == job.Pieces.Length, "The job has pieces with numbers that cannot be.");
        if (job.Names is { } names) Check(names, job);
        Check(job.Cutting, job);
        Check(job.Cloth.Profile);
        foreach (var thread in job.Palette.Threads) Check(thread);
        foreach (var content in job.Pieces.Select(p => p.Content).Distinct()) Check(content);
        foreach (var piece in job.Pieces)
        {
            Must(piece.Name == Titles.Clean(piece.Name), "A piece has a name with characters in it that no name can have.");
            Check(piece.Placement, piece.Name);
        }

        foreach (var part in job.Order)
        {
            Check(part.Placement, part.Name);
            Must(part.StopAfter is not { } message || IsStopMessage(message), $"“{part.Name}” has a stop with a message that no machine shows.");
            foreach (var slice in part.Slices) Check(slice, part.Name);
        }

        WorkBudget.CheckRecords(job.Order.Sum(p => p.Slices.Sum(s => (double)s.Count)));
    }

    /// <summary>Refuses a job that names stitches that are not there, by how many records a blob has (null: there is none).</summary>
    /// <exception cref="EditRefusedException">With what is wrong, in a sentence.</exception>
    public static void CheckStitches(Job job, Func<BlobHash, int?> recordsOf)
    {
        foreach (var slice in job.Order.SelectMany(p => p.Slices))
            Must(recordsOf(slice.Blob) is { } records && (long)slice.First + slice.Count <= records, "The job names stitches that are not there.");
        foreach (var design in job.Pieces.Select(p => p.Content).OfType<DesignContent>())
            Must(recordsOf(design.Stitches) is { } records && design.Divided.Sum(d => (long)d.Count) <= records, "The job names stitches that are not there.");
        foreach (var letter in job.Pieces.Select(p => p.Content).OfType<LetterSetContent>().SelectMany(w => w.Letters))
            Must(recordsOf(letter.Stitches) is { } records && letter.Divided.Sum(d => (long)d.Count) <= records, "The job names stitches that are not there.");
    }

    /// <summary>Refuses a cloth that cannot be.</summary>
    /// <exception cref="EditRefusedException">With what is wrong, in a sentence.</exception>
    public static void Check(ClothProfile cloth)
    {
        Must(IsKey(cloth.Id) && cloth.Name == Titles.Clean(cloth.Name) && Enum.IsDefined(cloth.Weave), "The cloth has a name or a weave that cannot be.");
        Must(cloth.ThicknessMm is >= ThinnestCloth and <= ThickestCloth, $"A cloth is {ThinnestCloth} to {ThickestCloth} mm thick; “{cloth.ThicknessMm}” is not.");
        foreach (var spacing in new[] { cloth.SatinSpacingMm, cloth.FillSpacingMm })
            if (!SettingRange.Spacing.Holds(spacing)) throw SettingRange.Spacing.Refused(Shown(spacing));
        if (!SettingRange.Compensation.Holds(cloth.CompensationMm)) throw SettingRange.Compensation.Refused(Shown(cloth.CompensationMm));
        Must(IsUnderlay(cloth.SatinUnderlay) && IsUnderlay(cloth.FillUnderlay), "The cloth has an underlay that cannot be.");
        Must(cloth.SpeedPercent is >= 1 and <= 100, "The speed on a cloth is 1 to 100 percent of the machine's.");
    }

    private static void Check(PieceContent content)
    {
        switch (content)
        {
            case DesignContent design:
                Must(design.Original is null || IsHash(design.Original), "A design names a file that cannot be.");
                Must(IsHash(design.Stitches.Hex), "A design names stitches that cannot be.");
                Must(design.Divided.Length is > 0 and <= Job.MostParts && design.Divided.All(d => d.Count > 0 && Enum.IsDefined(d.Role)), "A design has parts that do not fit together.");
                break;
            case LetterSetContent written:
                Check(written);
                break;
            case DrawingContent drawing:
                if (drawing is LetteringContent lettering) Check((ITextContent)lettering);
                if (drawing is MonogramContent monogram) Check(monogram);
                if (drawing is NameSlotContent slot) Check(slot);
                if (drawing is BorderContent border)
                {
                    Must(Enum.IsDefined(border.Wish.Form) && Enum.IsDefined(border.Wish.Sides) && border.Outline.All(IsPlace) && border.Shapes.Length > 0, "A border is wanted in a way that cannot be.");
                    border.Wish.Check();
                    if (border.Wish.Frame.Own is { } own) CheckDrawn(own.Shape, own.Settings);
                }

                Must(drawing.Shapes.Length <= Job.MostParts, $"A drawing can have {Job.MostParts:N0} shapes.");
                Must(drawing.Shapes.Select(s => s.Key).Distinct().Count() == drawing.Shapes.Length, "A drawing has two shapes of one name.");
                foreach (var shape in drawing.Shapes) Check(shape);
                break;
        }
    }

    private static void Check(NameSlotContent slot)
    {
        slot.Slot.Check();
        Must(slot.Text.Length is > 0 and <= LetteringWish.MostCharacters && slot.Text.All(c => c == '\n' || !char.IsControl(c)) && slot.Font == Titles.Clean(slot.Font) && slot.Font.Length > 0, "A name slot shows a text that cannot be.");
        Must(slot.Slot.Course is not LetterCourse.OnPath path || path.Path.All(IsPlace), "A name slot lies in a way that cannot be.");
        Must(((int)slot.Fit & ~0xF) == 0 && slot.Shapes.Length > 0, "A name slot shows a text in a way that cannot be.");
        slot.Wish.Check();
    }

    /// <summary>Whether a machine can show a message: one line of at most 120 bytes.</summary>
    public static bool IsStopMessage(string message) => message == Titles.Clean(message) && System.Text.Encoding.UTF8.GetByteCount(message) <= LongestStopMessage;

    private static void Check(JobCutting cutting, Job job)
    {
        bool IsPart(PartId id) => id.Value > 0 && id.Value < job.NextPart;
        bool IsLine(CutKey line) => (line.Part.Value == 0 || IsPart(line.Part)) && line.Line is >= 0 and < MostCutLines;
        Must(cutting.Parts.Length <= Job.MostParts && cutting.Parts.All(IsPart) && cutting.Around.Length <= Job.MostParts && cutting.Around.All(IsPart), "The job cuts lines of parts that cannot be.");
        Must(cutting.AllowanceMm is null or (>= JobCutting.LeastAllowance and <= JobCutting.MostAllowance), $"The allowance can be from {JobCutting.LeastAllowance} to {JobCutting.MostAllowance} mm.");
        Must(cutting.GapMm is >= JobCutting.LeastGap and <= JobCutting.MostGap && cutting.Copies is null or (>= 1 and <= JobCutting.MostCopies) && (cutting.Cutter is null || IsKey(cutting.Cutter)) && Enum.IsDefined(cutting.Turning), "The job lays its pieces on the mat in a way that cannot be.");
        Must(cutting.Changes.Length <= MostCutLines && cutting.Changes.All(c => IsLine(c.Line) && c.Material == Titles.Clean(c.Material) && c.Bridged.Length <= MostLines && c.Bridged.All(b => b.From is >= 0 and <= 1 && b.To is >= 0 and <= 1)) && cutting.Changes.DistinctBy(c => c.Line).Count() == cutting.Changes.Length, "The job corrects a cut line in a way that cannot be.");
        Must(cutting.ByHand.Length <= MostLaid && cutting.ByHand.All(l => IsLine(l.Piece) && l.Copy is >= 0 and < JobCutting.MostCopies && l.Sheet is >= 0 and < JobCutting.MostCopies && IsPlace(new(l.X, l.Y)) && l.TurnDegrees is 0 or 90 or 180 or 270), "The job lays a piece where no mat is.");
    }

    private static void Check(JobNames names, Job job)
    {
        names.Roster.Check();
        var people = names.Roster.People.Select(p => p.Id).ToHashSet();
        Must(names.FileRule.Length is > 0 and <= Titles.LongestTitle && names.FileRule == Titles.Clean(names.FileRule), "The files of a job are called in a way that cannot be.");
        Must(names.Own.Length <= Roster.MostPeople * 20 && names.Own.All(o => people.Contains(o.Person) && o.Slot.Value > 0 && o.Slot.Value < job.NextPiece && o is not { Text: null, CapitalMm: null }), "A name is otherwise for a person who is not in the roster.");
        Must(names.Own.All(o => (o.Text is not { } text || (text.Length <= SlotText.LongestPattern && text == Titles.CleanLines(text, SlotText.LongestPattern, MostLines))) && (o.CapitalMm is not { } mm || (mm >= LetteringWish.Capitals.Least && mm <= LetteringWish.Capitals.Most))), "A name is otherwise in a way that cannot be.");
        Must(names.Proofed.Length <= Roster.MostPeople * 20 && names.Proofed.All(p => p.Text.Length <= LetteringWish.MostCharacters), "A proof shows names that cannot be.");
    }

    private static void Check(ITextContent text)
    {
        var wish = text.Wish;
        Must(wish.Text.Length is > 0 and <= LetteringWish.MostCharacters && wish.Text.All(c => c == '\n' || !char.IsControl(c)), "A lettering has a text that cannot be.");
        Must(text.Font.Length > 0 && text.Font == Titles.Clean(text.Font), "A lettering has a font with a name that cannot be.");
        Must(Enum.IsDefined(wish.Align) && (wish.Course is not LetterCourse.OnPath path || path.Path.All(IsPlace)), "A lettering lies in a way that cannot be.");
        Must(double.IsFinite(text.CapitalMm) && text.CapitalMm > 0, "A lettering has letters of a height that cannot be.");
        Must(text is not LetteringContent { Outline: { } outline } lettering || (LetterOutline.Ways.Contains(outline.Way) && (outline.Alone || lettering.Shapes.Length % 2 == 0)), "A lettering has an outline that cannot be.");
        Must(wish.Nudges.All.All(n => n.At >= 0 && n.At < wish.Text.Length), "A lettering has a letter that was set by hand and is not in its text.");
        wish.Check();
    }

    private static void Check(MonogramContent monogram)
    {
        Must(monogram.Font.Length > 0 && monogram.Font == Titles.Clean(monogram.Font), "A monogram has a font with a name that cannot be.");
        Must(monogram.Wish.Letters.All(LetterSetSource.IsCharacter) && monogram.Shapes.Length >= monogram.Wish.Letters.Length, "A monogram has letters that cannot be.");
        Must(Enum.IsDefined(monogram.Wish.Form) && Enum.IsDefined(monogram.Way) && (monogram.Wish.Name is not { } name || (name.Length <= LetteringWish.MostCharacters && name == Titles.Clean(name))), "A monogram is wanted in a way that cannot be.");
        monogram.Wish.Check();
    }

    private static void Check(LetterSetContent written)
    {
        Check((ITextContent)written);
        Must(written.Letters.Length <= Job.MostParts && written.PartCount <= Job.MostParts, $"A job can have {Job.MostParts:N0} parts.");
        Must(written.Letters.Select(l => l.Key).Distinct().Count() == written.Letters.Length, "A lettering has two letters of one name.");
        Must(written.Missing.All(m => m.Length is > 0 and <= LongestKey && m == Titles.Clean(m)), "A lettering lacks characters that cannot be.");
        foreach (var letter in written.Letters)
        {
            Must(IsKey(letter.Key.Text) && letter.Text == Titles.Clean(letter.Text), "A letter has a key that cannot be.");
            Must(IsHash(letter.Stitches.Hex) && letter.Divided.Length is > 0 and <= Job.MostParts && letter.Divided.All(d => d.Count > 0 && Enum.IsDefined(d.Role)), "A letter names stitches that cannot be.");
            Check(letter.At, letter.Text);
        }

        if (written.How.OneThread is { } thread) Check(thread);
    }

    private static void Check(DrawingShape shape)
    {
        Must(IsKey(shape.Key.Text), "A shape has a key that cannot be.");
        Check(shape.At, shape.Name);
        CheckDrawn(shape.Shape, shape.Settings);
    }

    private static void CheckDrawn(DrawnShape shape, StitchSettings settings)
    {
        Check(settings);
        Must(shape.Paths.Sum(p => p.Nodes.Length) <= DrawnShape.MostNodes, $"A shape has more than {DrawnShape.MostNodes:N0} points.");
        Must(shape.Paths.SelectMany(p => p.Nodes).All(n => IsPlace(n.At) && IsPlace(n.In) && IsPlace(n.Out)), "A shape has a point that is nowhere.");
    }

    /// <summary>Refuses settings that cannot be sewn.</summary>
    private static void Check(StitchSettings settings)
    {
        SettingRange.Check(settings);
        Must(Enum.IsDefined(settings.Way) && Enum.IsDefined(settings.MotifTurn) && (settings.Underlay is not { } under || IsUnderlay(under)), "A shape is stitched in a way that is not known.");
        Must(settings.Motif is null || Motifs.Find(settings.Motif) is not null, "A shape has a motif that is not known.");
        Must(settings.Tile is null || Tiles.Find(settings.Tile) is not null, "A shape has a pattern that is not known.");
        Must((settings.Start is not { } start || IsPlace(start)) && (settings.End is not { } end || IsPlace(end)), "A shape starts or ends at a place that is none.");
    }

    private static void Check(StitchSlice slice, string name)
    {
        Must(slice is { First: >= 0, Count: > 0 } && IsHash(slice.Blob.Hex), $"“{Short(name)}” has stitches that cannot be.");
        if (slice.Own is { } own) Check(own, name);
        Must(slice.Rework.SpacingTimes is null or (>= ChangeSpacing.Least and <= ChangeSpacing.Most) && slice.Rework.ShorterThanMm is >= 0 and <= LeaveOutShort.Most && Enum.IsDefined(slice.Rework.Mode), $"What is done to the stitches of “{Short(name)}” cannot be done.");
    }

    private static void Check(Placement at, string name)
    {
        Must(Math.Abs(at.X) <= FarthestMm && Math.Abs(at.Y) <= FarthestMm && at.TurnDegrees is >= 0 and < 360, $"“{Short(name)}” lies at a place that is none.");
        Must(at.Size is { Across: >= SmallestSize and <= LargestSize, Down: >= SmallestSize and <= LargestSize } && Math.Abs(at.Size.Lean) <= LargestSize, $"“{Short(name)}” has a size that cannot be.");
    }

    private static void Check(SewingThread thread) =>
        Must(new[] { thread.Maker, thread.Number, thread.Name }.All(t => t == Titles.Clean(t)), "A thread has a name with characters in it that no name can have.");

    private static bool IsPlace(Point p) => Math.Abs(p.X) <= FarthestMm && Math.Abs(p.Y) <= FarthestMm;

    private static bool IsKey(string text) => text.Length is > 0 and <= LongestKey && text.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '_' or '.');

    private static bool IsHash(string text) => text.Length == 64 && text.All(char.IsAsciiHexDigitLower);

    private static bool IsUnderlay(UnderlayLayers layers) => Enum.IsDefined(layers.First) && Enum.IsDefined(layers.Second);

    private static string Short(string name) => Titles.Clean(name) is var clean && clean.Length <= 40 ? clean : clean[..40] + "…";

    private static string Shown(double value) => value.ToString("0.####", System.Globalization.CultureInfo.InvariantCulture);

    private static void Must(bool holds, string says)
    {
        if (!holds) throw new EditRefusedException(says);
    }
}
