using System.Collections.Immutable;
using System.CommandLine;
using System.Globalization;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Files.Rosters;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Garments;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Rendering.Fonts;

namespace EvenThimble.Cli;

/// <summary>Sews a job with the names of a roster: a file for each garment, one that stops between them, or rounds of heads.</summary>
internal sealed class NamesCommand : FilesCommand
{
    private readonly Option<string?> _roster = new("--roster") { Description = "The list of people (CSV, XLSX or text); else that which the job carries." };
    private readonly Option<string?> _machine = new("--machine") { Description = "The machine, by name or short name; else that of the job." };
    private readonly Option<string?> _hoop = new("--hoop") { Description = "Its hoop; else that of the job, or the first that the job fits." };
    private readonly Option<int?> _heads = new("--heads") { Description = "Sew in rounds on so many heads." };
    private readonly Option<bool> _oneFile = new("--one-file") { Description = "One file that stops between garments." };
    private readonly Option<bool> _namesOnly = new("--names-only") { Description = "The names without the design." };
    private readonly Option<bool> _designOnly = new("--design-only") { Description = "The design without names." };
    private readonly Option<string?> _files = new("--files") { Description = "How files are called, such as {nn}-{family}." };
    private readonly Outputs _outputs = new();

    public NamesCommand(TextWriter says, TextWriter errors)
        : base("names", "Sew a job with the names of a roster.", "Jobs (.evjob) with a name slot.", says, errors)
    {
        foreach (var option in new Option[] { _roster, _machine, _hoop, _heads, _oneFile, _namesOnly, _designOnly, _files }) Add(option);
        _outputs.Out.Description = "The folder that the files go in.";
        _outputs.AddTo(this);
    }

    protected override IEnumerable<Work> Works(ParseResult parsed)
    {
        var machine = parsed.GetValue(_machine) is { } named ? HoopedFiles.MachineNamed(named) : null;
        if (parsed.GetValue(_hoop) is not null && machine is null) throw new UsageException("A hoop belongs to a machine; name it with --machine.");
        if (parsed.GetValue(_namesOnly) && parsed.GetValue(_designOnly)) throw new UsageException("Either the names or the design can be left out, not both.");
        if (parsed.GetValue(_heads) is not null && parsed.GetValue(_oneFile)) throw new UsageException("Rounds of heads are files of their own; leave --one-file out.");
        var folder = parsed.GetValue(_outputs.Out)!;
        if (File.Exists(folder)) throw new UsageException($"{folder} is a file; -o has to be a folder.");
        return parsed.GetValue(Inputs)!.Select(input => new Work(input, folder, () => Sew(parsed, input, folder, machine)));
    }

    private WorkResult Sew(ParseResult parsed, string input, string folder, SewingMachineModel? wanted)
    {
        var archive = JobArchive.FromBytes(StitchFiles.Bytes(input, StitchFormats.LargestFile));
        var (faces, job, notes) = (new Faces(archive), archive.Job, new List<string>());
        if (parsed.GetValue(_roster) is { } path)
        {
            var read = RosterTable.Read(StitchFiles.Bytes(path, StitchFormats.LargestFile), Titles.FromFileName(path));
            job = new TakeRoster(read.Roster, null).Apply(job);
            notes.AddRange([$"{path}: {read.Roster.People.Length} people, fields {string.Join(", ", read.Roster.Fields)} ({read.Source})", .. read.Notes]);
        }

        if (parsed.GetValue(_files) is { } rule) job = new NameFiles(rule).Apply(job);
        var machine = wanted ?? StitchFiles.Machines.MachineOf(job.Hoop);
        var plan = Sequencer.Plan(job, archive);
        var field = parsed.GetValue(_hoop) is { } hoop ? HoopedFiles.HoopNamed(machine, hoop)
            : job.Hoop.MachineId == machine.Id ? StitchFiles.Machines.FieldOf(job.Hoop) : machine.Hoops.FirstOrDefault(h => FitAdvisor.Fits(plan, h)) ?? machine.Hoops[^1];
        var memory = new StitchMemory();
        var roll = NameRoll.Of(job, faces).Stitched(archive, memory);
        if (roll.UnknownFields.Count > 0) notes.Add($"no column gives {string.Join(", ", roll.UnknownFields)}; it is left empty");
        var files = new GarmentFiles(job, roll, archive, StitchFiles.Machines, machine, field, faces, memory);
        var part = parsed.GetValue(_namesOnly) ? SewnPart.NamesOnly : parsed.GetValue(_designOnly) ? SewnPart.DesignOnly : SewnPart.All;
        var way = parsed.GetValue(_heads) is not null ? SewingWay.Rounds : parsed.GetValue(_oneFile) ? SewingWay.OneFile : SewingWay.EachGarment;
        var kind = machine.Takes[0];
        var (lines, told, refused) = (notes.ConvertAll(n => $"  {n}"), new List<object>(), false);
        foreach (var file in files.All(way, part, parsed.GetValue(_heads) ?? 1))
        {
            var target = Path.Combine(folder, file.Stem + kind.Extension);
            var written = file.ToFile();
            _outputs.Write(parsed, target, () => StitchFiles.Write(kind, written));
            refused |= file.InTrouble;
            lines.Add(string.Create(CultureInfo.InvariantCulture, $"  {target}: {(file.Garments.IsEmpty ? "the design" : string.Join("; ", file.Garments.Select(g => $"{(g.Head is { } head ? $"head {head} " : string.Empty)}{g.Name.Text}{(g.Copies > 1 ? $" × {g.Copies}" : string.Empty)}")))}, {written.StitchCount:N0} stitches"));
            lines.AddRange(file.Findings.Where(f => f.Level != FindingLevel.Note).Select(f => $"    {f.Says} {f.Advice}"));
            told.Add(new
            {
                path = target,
                title = written.Title,
                stitches = written.StitchCount,
                garments = file.Garments.Select(g => new { number = g.Name.Number, name = g.Name.Text, head = g.Head, copies = g.Copies }),
                findings = file.Findings.Select(f => new { level = f.Level.ToString().ToLowerInvariant(), f.Key, f.Says }),
            });
        }

        // A name that cannot be sewn is told, and is no success.
        if (part != SewnPart.DesignOnly) refused |= files.LeftOut.Count > 0;
        var flagged = roll.WorstFirst.Where(r => r.Flags != NameFlags.None).ToList();
        lines.InsertRange(0, [$"{input}: {roll.All.Length} names, {told.Count} {(told.Count == 1 ? "file" : "files")} for {machine.Name}, {field.Name}", .. flagged.Select(r => $"  look at {r.Number} {r.Text}: {NameWords.Of(r)}")]);
        return new(lines, new { files = told, names = roll.All.Select(r => Told(r, job, roll, archive, memory)), notes }, refused);
    }

    private static object Told(RollName name, Job job, NameRoll roll, IStitchSource source, StitchMemory memory)
    {
        var plan = name.CanBeSewn ? roll.Plan(name, source, memory) : SewingPlan.Empty;
        return new
        {
            number = name.Number,
            name = name.Text,
            quantity = name.Person.Quantity,
            slots = name.Slots.Select(s =>
            {
                var piece = job.Pieces.First(p => p.Id == s.Slot);
                return new
                {
                    text = s.Text,
                    font = s.Content?.Font,
                    heightMm = s.Content is { } c ? Math.Round(c.CapitalMm, 3) : (double?)null,
                    condense = s.Content is { } k ? Math.Round(k.Wish.Condense, 4) : (double?)null,
                    box = s.Content is null ? null : BoxOf(plan, name, s, roll, piece),
                    refused = s.Refused,
                    flags = NameWords.Keys(s.Flags),
                };
            }),
        };
    }

    /// <summary>The rectangle about a name's needle points within its slot, mm.</summary>
    private static object BoxOf(SewingPlan plan, RollName name, SlotName slot, NameRoll roll, Piece piece)
    {
        var its = roll.JobFor(name).Order.Where(p => p.Piece == slot.Slot).Select(p => p.Id).ToHashSet();
        var box = Box.Empty;
        foreach (var part in plan.Parts.Where(p => its.Contains(p.Id)))
            for (var i = part.First; i < part.End; i++)
                if (plan.Records.Kinds[i] == StitchKind.Stitch) box = box.With(NameSlot.Of(piece).At.Unplace(plan.Records.At(i)));
        return new { leftMm = Math.Round(box.MinX, 3), topMm = Math.Round(box.MinY, 3), rightMm = Math.Round(box.MaxX, 3), bottomMm = Math.Round(box.MaxY, 3) };
    }

    /// <summary>The fonts that come with the program, and those that the job brings along.</summary>
    private sealed class Faces(JobArchive archive) : ILetterFaces
    {
        private readonly Dictionary<string, LetterFace?> _open = new(StringComparer.OrdinalIgnoreCase);

        public LetterFace? Find(string? name) => name is null ? null : _open.TryGetValue(name, out var known) ? known : _open[name] = Open(name);

        private LetterFace? Open(string name)
        {
            if (InstalledFonts.Find(name) is { } installed) return new(installed.Name, InstalledFonts.Open(installed));
            // Of two files of one font the second got a number behind its name.
            var own = archive.Fonts.Select(f => FontFile.Read(f.Bytes)).FirstOrDefault(f => name.Equals(f.FullName, StringComparison.OrdinalIgnoreCase) || name.StartsWith($"{f.FullName} ", StringComparison.OrdinalIgnoreCase));
            return own is null ? null : new(name, own);
        }
    }
}
