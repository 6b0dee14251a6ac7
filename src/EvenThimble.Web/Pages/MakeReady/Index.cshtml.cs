using EvenThimble.Core.Machines;
using EvenThimble.Core.Readiness;
using EvenThimble.Core.Text;
using EvenThimble.Equipment;
using EvenThimble.Web.Look;
using EvenThimble.Web.Workroom;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EvenThimble.Web.Pages;

/// <summary>Writes a job's files for chosen machines and hands them over.</summary>
public sealed class MakeReadyModel(JobDesk desk, EquipmentRoom room, HandOver handOver, ThreadBox box, MachineCatalogue machines) : PageModel
{
    /// <summary>What was chosen for a machine.</summary>
    /// <param name="Chosen">Whether a file is wanted for it.</param>
    /// <param name="FileName">The name as typed; null: the suggested one.</param>
    /// <param name="Where">Where the file goes: a machine or a stick.</param>
    /// <param name="Refused">Why it could not be done, in a sentence.</param>
    /// <param name="Taken">A file of that name is there already.</param>
    public sealed record Choice(bool Chosen, string? FileName, string Where, string? Refused, bool Taken);

    private readonly Dictionary<string, Choice> _choices = [];

    [BindProperty(SupportsGet = true)]
    public long Id { get; set; }

    [BindProperty]
    public bool Anyway { get; set; }

    public OpenJob Open { get; private set; } = null!;

    public Preferences Look { get; private set; } = null!;

    public IReadOnlyList<WritingPlan> Plans { get; private set; } = [];

    public IReadOnlyList<RemovableStick> Sticks => room.Sticks;

    public IReadOnlyList<Arrival> Arrivals { get; private set; } = [];

    public string? Refused { get; private set; }

    /// <summary>Thread that runs out or is not there.</summary>
    public IReadOnlyList<Finding> ThreadFindings => box.FindingsOf(Open);

    /// <summary>What is to be fetched and threaded for a machine.</summary>
    public FetchList FetchFor(SewingMachineModel machine) => handOver.FetchFor(Open, machine);

    public Choice ChoiceFor(string machine) =>
        _choices.GetValueOrDefault(machine) ?? new(Arrivals.Count == 0 && !Request.HasFormContentType && machine == Open.Machine.Id, null, machine, null, false);

    public override void OnPageHandlerExecuting(PageHandlerExecutingContext context)
    {
        Look = Preferences.Of(HttpContext);
        if (desk.Find(Id) is not { } open)
        {
            context.Result = NotFound();
            return;
        }

        Open = open;
        Plans = [.. machines.All.OrderBy(m => m.Id == open.Machine.Id ? 0 : 1).Select(m => handOver.PlanFor(open, m))];
    }

    public void OnGet()
    {
        // Everything is shown from the job as it stands.
    }

    /// <summary>One machine's file, to be kept wherever the browser puts it; that of a hooping, from 1, where there are several.</summary>
    public IActionResult OnGetDownload(string machine, string? name, int hooping = 1)
    {
        if (Plans.FirstOrDefault(p => p.Machine.Id == machine) is not { } plan || plan.Hoopings.FirstOrDefault(h => h.Number == hooping) is not { } wanted) return NotFound();
        var fileName = Titles.FileName(name ?? plan.FileName);
        return File(handOver.Write(Open, plan, wanted), plan.Kind.MediaType, plan.FileNameOf(wanted, HandOver.NameRefused(plan.Machine, fileName) is null ? fileName : plan.FileName));
    }

    public IActionResult OnPost(string[] machines)
    {
        var wanted = Plans.Where(p => machines.Contains(p.Machine.Id)).ToList();
        foreach (var plan in wanted) _choices[plan.Machine.Id] = Checked(plan);
        if (wanted.Count == 0) Refused = "No machine is chosen. Tick one or more.";
        else if (!Anyway && wanted.Find(p => p.InTrouble) is { } trouble)
            Refused = $"{trouble.Machine.Name} would not list this job as it is. Put it right on the bench, untick the machine, or tick “write it even for a machine that would not list it”.";
        else if (_choices.Values.All(c => c.Refused is null))
        {
            Arrivals = [.. wanted.SelectMany(Deliver)];
            foreach (var machine in wanted.Where(p => Arrivals.Where(a => a.Machine.Id == p.Machine.Id).All(a => a.Done))) _choices.Remove(machine.Machine.Id);
        }

        if (Refused is not null || _choices.Count > 0) Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        return Page();
    }

    private Choice Checked(WritingPlan plan)
    {
        var (machine, typed) = (plan.Machine.Id, Request.SentForm()[$"name-{plan.Machine.Id}"].ToString().Trim());
        var where = Request.SentForm()[$"where-{machine}"].ToString();
        if (typed.Length == 0) typed = plan.FileName;
        var drawer = room.Drawer(where);
        var names = plan.FileNames(typed);
        var taken = drawer is null ? null : names.FirstOrDefault(drawer.Has);
        var replace = Request.SentForm()[$"replace-{machine}"] == "true";
        var refused = drawer is null ? "Choose where it goes."
            : _choices.Values.Any(c => c.Where == where && typed.Equals(c.FileName, StringComparison.OrdinalIgnoreCase)) ? $"Another file of this order is called {typed} there already. Type another name."
            : names.Select(name => HandOver.NameRefused(plan.Machine, name)).FirstOrDefault(r => r is not null) ?? (taken is not null && !replace ? $"There is a file {taken} already. Type another name, such as {drawer.FreeName(typed)}, or tick that it be replaced." : null);
        return new(true, typed, where, refused, taken is not null);
    }

    private List<Arrival> Deliver(WritingPlan plan)
    {
        var choice = _choices[plan.Machine.Id];
        var arrivals = plan.Hoopings.Select(h => handOver.Deliver(Open, plan, h, plan.FileNameOf(h, choice.FileName!), choice.Where, choice.Taken)).ToList();
        if (arrivals.Find(a => !a.Done) is { } not) _choices[plan.Machine.Id] = choice with { Refused = not.Says };
        return arrivals;
    }
}
