using System.Collections.Immutable;
using System.CommandLine;
using System.Globalization;
using EvenThimble.Core.Cutting;
using EvenThimble.Core.Files.Cut;
using EvenThimble.Core.Files.Drawing;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;
using EvenThimble.Rendering;
using EvenThimble.Rendering.Sheets;

namespace EvenThimble.Cli;

/// <summary>Writes the cut file for the cloth pieces of a design.</summary>
internal sealed class CutCommand : FilesCommand
{
    private readonly Option<string?> _parts = new("--parts") { Description = "Whose lines are cut, by their numbers in sewing order, such as 2,3." };
    private readonly Option<string?> _roles = new("--roles") { Description = "Whose lines are cut, by their roles, such as tack-down; where a file has none, as they seem to be." };
    private readonly Option<bool> _around = new("--around") { Description = "Cut around the whole design, as a patch." };
    private readonly Option<double?> _allowance = new("--allowance") { Description = "How far outside the stitches, mm; 1 unless said." };
    private readonly Option<bool> _mirror = new("--mirror") { Description = "Cut mirrored: the cloth lies face down." };
    private readonly Option<int> _copies = new("--copies") { Description = "How many of each.", DefaultValueFactory = _ => 1 };
    private readonly Option<string?> _mat = new("--mat") { Description = "The mat that pieces are laid on, mm, such as 300x300; else they stay where they lie." };
    private readonly Option<double> _gap = new("--gap") { Description = "Between pieces on the mat, mm.", DefaultValueFactory = _ => JobCutting.UsualGap };
    private readonly Option<bool> _whole = new("--own-pieces") { Description = "Lines within others are pieces by themselves, not windows." };
    private readonly Option<bool> _square = new("--test-square") { Description = "Cut a square of 20 mm too, to measure." };
    private readonly Outputs _outputs = new();

    public CutCommand(TextWriter says, TextWriter errors)
        : base("cut", "Write the cut file for the cloth pieces of a design.", "Stitch files, jobs (.evjob) or drawings (.svg).", says, errors)
    {
        foreach (var option in new Option[] { _parts, _roles, _around, _allowance, _mirror, _copies, _mat, _gap, _whole, _square }) Add(option);
        _outputs.AddTo(this);
    }

    protected override IEnumerable<Work> Works(ParseResult parsed)
    {
        var target = parsed.GetValue(_outputs.Out)!;
        if (CutFileKind.Find(Path.GetExtension(target)) is not { } kind) throw new UsageException($"“{Path.GetExtension(target)}” is no ending of a cut file; there are {string.Join(", ", CutFileKind.All.Select(k => k.Extension))}.");
        if (parsed.GetValue(Inputs) is not [var input]) throw new UsageException("A cut file is made of one design at a time.");
        var mat = MatOf(parsed.GetValue(_mat));
        var parts = parsed.GetValue(_parts) is { } numbers ? [.. numbers.Split(',', StringSplitOptions.TrimEntries).Select(n => int.TryParse(n, NumberStyles.None, CultureInfo.InvariantCulture, out var v) && v > 0 ? v : throw new UsageException($"“{n}” is no number of a part."))] : (List<int>)[];
        var roles = parsed.GetValue(_roles) is { } named ? [.. named.Split(',', StringSplitOptions.TrimEntries).Select(r => PartRoles.TryParse(r.Replace('-', ' ').Replace("tack down", "tack-down", StringComparison.Ordinal), out var role) ? role : throw new UsageException($"“{r}” is no role; there are {string.Join(", ", PartRoles.All.Select(a => a.InWords()))}."))] : (List<PartRole>)[];
        if (parsed.GetValue(_copies) is < 1 or > JobCutting.MostCopies) throw new UsageException($"Between 1 and {JobCutting.MostCopies} copies can be cut at once.");
        return [new Work(input, target, () => Cut(parsed, input, target, kind, mat, parts, roles))];
    }

    private WorkResult Cut(ParseResult parsed, string input, string target, CutFileKind kind, (double Width, double Height)? mat, List<int> numbers, List<PartRole> roles)
    {
        var (job, source) = Opened(input);
        var plan = Sequencer.Whole(job, source);
        var chosen = Chosen(job, plan, numbers, roles, parsed.GetValue(_around));
        job = job with
        {
            Cutting = new()
            {
                Parts = [.. chosen],
                Around = parsed.GetValue(_around) ? [.. job.Order.Select(p => p.Id)] : [],
                FaceDown = parsed.GetValue(_mirror),
                Turning = CutTurning.QuarterTurns,
                TestSquare = parsed.GetValue(_square),
            },
        };
        job = new SetAllowance(parsed.GetValue(_allowance)).Apply(job);
        job = new LayOnMat(null, parsed.GetValue(_gap), parsed.GetValue(_copies), parsed.GetValue(_mirror), CutTurning.QuarterTurns, parsed.GetValue(_square)).Apply(job);
        if (parsed.GetValue(_whole)) job = CutLines.Of(job, plan).All.Aggregate(job, (j, line) => new ChangeCutLine(line.Change with { OwnPiece = true }, string.Empty).Apply(j));
        var cut = new CutJob(job, plan);
        if (cut.Pieces.All.IsEmpty) throw new EditRefusedException(string.Join(' ', cut.Findings.Select(f => $"{f.Says} {f.Advice}")));
        var layout = mat is { } m ? cut.LaidOn(m.Width, m.Height) : InPlace(cut);
        if (layout.Sheets.IsEmpty) throw new EditRefusedException(string.Join(' ', layout.Findings.Select(f => $"{f.Says} {f.Advice}")));
        var files = layout.Sheets.Select(s => (s.Name, File: CutFile.Of(s, job.Title))).ToList();
        var written = new List<(string Path, CutFile File)>();
        if (kind == CutFileKind.Pdf)
        {
            _outputs.Write(parsed, target, () => new CutTemplate(job.Title, files).ToPdf(Paper.A4));
            written.AddRange(files.Select(f => (target, f.File)));
        }
        else
        {
            for (var n = 0; n < files.Count; n++)
            {
                var (path, file) = (n == 0 ? target : $"{Path.ChangeExtension(target, null)}-{n + 1}{Path.GetExtension(target)}", files[n].File);
                _outputs.Write(parsed, path, () => kind == CutFileKind.Png ? CutPainter.Picture(file) : CutFormats.Write(kind, file));
                written.Add((path, file));
            }
        }

        var findings = cut.Findings.Concat(layout.Findings).ToList();
        return new(
            [
                .. written.Select(w => string.Create(CultureInfo.InvariantCulture, $"{w.Path}: {w.File.Lines.Count()} lines, {w.File.Bounds.Width:0.0} × {w.File.Bounds.Height:0.0} mm on {w.File.Width:0.#} × {w.File.Height:0.#} mm")),
                .. cut.Pieces.All.Select(p => string.Create(CultureInfo.InvariantCulture, $"  {p.Name}: {p.Bounds.Width:0.0} × {p.Bounds.Height:0.0} mm, {p.Rings.Length - 1} windows, allowance {cut.AllowanceMm:0.##} mm")),
                .. findings.Select(f => $"  {f.Says} {f.Advice}"),
            ],
            new
            {
                files = written.Select(w => new { path = w.Path, widthMm = Math.Round(w.File.Width, 3), heightMm = Math.Round(w.File.Height, 3), lines = w.File.Lines.Count() }),
                pieces = cut.Pieces.All.Select(p => new { name = p.Name, material = p.Material, widthMm = Math.Round(p.Bounds.Width, 3), heightMm = Math.Round(p.Bounds.Height, 3), windows = p.Rings.Length - 1 }),
                findings = findings.Select(f => f.Says),
            },
            findings.Exists(f => f.Serious));
    }

    /// <summary>The parts that were asked for.</summary>
    /// <exception cref="EditRefusedException">There are none.</exception>
    private static List<PartId> Chosen(Job job, SewingPlan plan, List<int> numbers, List<PartRole> roles, bool around)
    {
        if (numbers.Find(n => n > job.Order.Count) is > 0 and var missing) throw new EditRefusedException($"There is no part {missing}; the design has {job.Order.Count}.");
        if (numbers.Count > 0) return numbers.ConvertAll(n => job.Order[n - 1].Id);
        if (around && roles.Count == 0) return [];
        var suggested = RoleReading.Suggest(job, plan);
        if (roles.Count == 0) roles = [PartRole.TackDown];
        List<PartId> chosen = [.. job.Order.Where(p => roles.Contains(p.Role) || suggested.Any(s => s.Part == p.Id && roles.Contains(s.Role))).Select(p => p.Id)];
        return chosen.Count > 0 ? chosen
            : throw new EditRefusedException($"No part is for {string.Join(" or ", roles.Select(r => r.InWords()))}. Name parts with --parts: {string.Join(", ", job.Order.Select((p, n) => $"{n + 1} {p.Name}"))}.");
    }

    private static (Job Job, IStitchSource Source) Opened(string input)
    {
        var bytes = StitchFiles.Bytes(input, StitchFormats.LargestFile);
        if (Path.GetExtension(input).Equals(".evjob", StringComparison.OrdinalIgnoreCase))
        {
            var archive = JobArchive.FromBytes(bytes);
            return (archive.Job, archive);
        }

        if (Path.GetExtension(input).Equals(".svg", StringComparison.OrdinalIgnoreCase) && !System.Text.Encoding.UTF8.GetString(bytes).Contains("data-thread", StringComparison.Ordinal))
        {
            var drawing = SvgDrawing.Read(bytes);
            var empty = Job.New(StitchFiles.Machines.UsualHoop) with { Title = Titles.FromFileName(input) };
            var brought = BroughtDrawing.Of(empty.Title, drawing, drawing.Width, _ => BroughtDrawing.Run, MadeUpCharts.All[0].Threads).Apply(empty);
            return (brought, new StitchFiles.Held([]));
        }

        var design = StitchFiles.Read(input);
        return (StitchFiles.JobOf(design), new StitchFiles.Held([design]));
    }

    /// <summary>The pieces where they lie in the design, all on one sheet that is a gap wider.</summary>
    private static CutLayout InPlace(CutJob cut)
    {
        var box = Box.Around(cut.Pieces.All.SelectMany(p => p.Rings[0]));
        var gap = cut.Wish.GapMm;
        if (cut.Copies > 1 || cut.Wish.TestSquare) return cut.LaidOn(Math.Max(300, box.Width + (2 * gap)), Math.Max(300, box.Height + (2 * gap)));
        Point Placed(Point p) => new(cut.FaceDown ? box.MaxX - p.X + gap : p.X - box.MinX + gap, p.Y - box.MinY + gap);
        return new(
            [.. cut.Pieces.All.GroupBy(p => p.Material).Select(g => new CutSheet(g.Key, 1, 1, box.Width + (2 * gap), box.Height + (2 * gap), [.. g.Select(p => new LaidPiece(p, 0, Placed(p.Bounds.Middle), 0, false, [.. p.Rings.Select(r => r.Select(Placed).ToImmutableArray())]))]))], []);
    }

    private static (double Width, double Height)? MatOf(string? typed)
    {
        if (typed is null) return null;
        return typed.Split('x', 'X') is [var w, var h] && double.TryParse(w, NumberStyles.Float, CultureInfo.InvariantCulture, out var width) && double.TryParse(h, NumberStyles.Float, CultureInfo.InvariantCulture, out var height) && width is > 10 and < 3_000 && height is > 10 and < 3_000
            ? (width, height)
            : throw new UsageException($"“{typed}” is no mat. Type its width and height in mm, such as 300x300.");
    }
}
